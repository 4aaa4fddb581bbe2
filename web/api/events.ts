import type { DeliveryView, ServerEvent } from '@tambur/server';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { tellProgress } from './import-progress.ts';
import { keys } from './queries.ts';

/** Keeps what is on the page true to what happens on the server, for as long as the page is open. */
export function useServerEvents(): void {
  const client = useQueryClient();
  useEffect(() => {
    const stream = new EventSource('/api/events');
    stream.onmessage = ({ data }: MessageEvent<string>) => {
      const event: ServerEvent = JSON.parse(data);
      if (event.type === 'shelf') client.invalidateQueries({ queryKey: keys.shelf });
      else if (event.type === 'import') tellProgress(event);
      else if (event.type === 'build') {
        const move = (view: DeliveryView): DeliveryView =>
          view.id === event.deliveryId ? { ...view, progress: event.progress } : view;
        client.setQueryData<DeliveryView>(keys.delivery(event.deliveryId), (old) => old && move(old));
        client.setQueryData<DeliveryView[]>(keys.deliveries(event.jobId), (old) => old?.map(move));
      } else {
        client.invalidateQueries({ queryKey: keys.delivery(event.deliveryId) });
        client.invalidateQueries({ queryKey: keys.deliveries(event.jobId) });
        client.invalidateQueries({ queryKey: keys.jobs, exact: true });
      }
    };
    // After a gap anything may have happened.
    stream.onopen = () => client.invalidateQueries({ queryKey: ['deliveries'] });
    return () => stream.close();
  }, [client]);
}
