import * as Comlink from 'comlink';

interface Started<Api> {
  readonly worker: Worker;
  readonly remote: Comlink.Remote<Api>;
  /** Rejects when the worker fails or is ended; never resolves. */
  readonly over: Promise<never>;
  readonly end: (reason: Error) => void;
}

/** A worker for one kind of task: started at its first use, and again after it failed or was ended. */
export class TaskWorker<Api> {
  private readonly create: () => Worker;
  private started: Started<Api> | null = null;

  constructor(create: () => Worker) {
    this.create = create;
  }

  /**
   * Calls a function of the worker.
   * @throws Error if the worker fails or is ended before it has answered
   */
  run<T>(call: (remote: Comlink.Remote<Api>) => T): Promise<Awaited<T>> {
    const { remote, over } = this.start();
    return Promise.race([call(remote), over]);
  }

  /** Ends the worker in the middle of what it does; whoever waits for it hears the reason. */
  end(reason: Error): void {
    this.started?.end(reason);
  }

  private start(): Started<Api> {
    if (this.started) return this.started;
    const worker = this.create();
    let reject: (reason: Error) => void = () => undefined;
    const over = new Promise<never>((_, fail) => {
      reject = fail;
    });
    // Where nobody waits, nobody needs to hear of it.
    over.catch(() => undefined);
    const end = (reason: Error) => {
      worker.terminate();
      if (this.started?.worker === worker) this.started = null;
      reject(reason);
    };
    worker.addEventListener('error', ({ message }) => end(new Error(message || 'a worker of the page failed')));
    worker.addEventListener('messageerror', () => end(new Error('a worker of the page gave no readable answer')));
    this.started = { worker, remote: Comlink.wrap<Api>(worker), over, end };
    return this.started;
  }
}
