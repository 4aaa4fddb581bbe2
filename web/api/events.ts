import type { DeliveryView, ServerEvent } from '@tambur/server';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { tellProgress } from './import-progress.ts';
import { keys } from './queries.ts';
import { refresh } from './refresh.ts';

/** Keeps what is on the page true to what happens on the server, for as long as the page is open. */
export function useServerEvents(): void {
  const client = useQueryClient();
  useEffect(() => {
    const stream = new EventSource('/api/events');
    stream.onmessage = ({ data }: MessageEvent<string>) => {
      const event: ServerEvent = JSON.parse(data);
      if (event.type === 'shelf') refresh(client, keys.shelf);
      else if (event.type === 'import') tellProgress(event);
      else if (event.type === 'build') {
        const move = (view: DeliveryView): DeliveryView =>
          view.id === event.deliveryId ? { ...view, progress: event.progress } : view;
        client.setQueryData<DeliveryView>(keys.delivery(event.deliveryId), (old) => old && move(old));
        client.setQueryData<DeliveryView[]>(keys.deliveries(event.jobId), (old) => old?.map(move));
      } else {
        refresh(client, keys.delivery(event.deliveryId));
        refresh(client, keys.deliveries(event.jobId));
        refresh(client, keys.jobs);
      }
    };
    // After a gap anything may have happened.
    stream.onopen = () => refresh(client, keys.everyDelivery);
    return () => stream.close();
  }, [client]);
}
