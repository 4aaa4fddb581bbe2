import type { DeliveryView, ServerEvent } from '@tambur/server';
import { type QueryClient, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { tellEveryJob, tellJob } from './job-events.ts';
import { tellProgress } from './progress.ts';
import { keys } from './queries.ts';
import { refresh } from './refresh.ts';

/** Keeps what is known true to what happens on the server, until the function that it gives back is called. */
export function followServer(client: QueryClient): () => void {
  const stream = new EventSource('/api/events');
  stream.onmessage = ({ data }: MessageEvent<string>) => {
    const event: ServerEvent = JSON.parse(data);
    if (event.type === 'shelf') void refresh(client, keys.shelf);
    else if (event.type === 'job') tellJob(event.jobId, event.revision);
    else if (event.type === 'import' || event.type === 'whole') tellProgress(event);
    else if (event.type === 'build') {
      const move = (view: DeliveryView): DeliveryView =>
        view.id === event.deliveryId
          ? {
              ...view,
              progress: event.progress,
              rows: view.rows.map((row, i) => ({ ...row, done: event.rows[i] ?? row.done })),
            }
          : view;
      client.setQueryData<DeliveryView>(keys.delivery(event.deliveryId), (old) => old && move(old));
      client.setQueryData<DeliveryView[]>(keys.deliveries(event.jobId), (old) => old?.map(move));
    } else {
      void refresh(client, keys.delivery(event.deliveryId));
      void refresh(client, keys.deliveries(event.jobId));
      void refresh(client, keys.jobs);
    }
  };
  // After a gap anything may have happened.
  stream.onopen = () => {
    void refresh(client, keys.everyDelivery);
    tellEveryJob();
  };
  return () => stream.close();
}

/** Follows the server for as long as the page is open. */
export function useServerEvents(): void {
  const client = useQueryClient();
  useEffect(() => followServer(client), [client]);
}
