import { EventEmitter } from 'node:events';
import type { ServerEvent } from './views.ts';

/** Carries what happens on the server to every open page. */
export class Events {
  private readonly emitter = new EventEmitter().setMaxListeners(0);

  send(event: ServerEvent): void {
    this.emitter.emit('event', event);
  }

  /** Calls `listener` for each event until the function that it gives back is called. */
  listen(listener: (event: ServerEvent) => void): () => void {
    this.emitter.on('event', listener);
    return () => this.emitter.off('event', listener);
  }
}
