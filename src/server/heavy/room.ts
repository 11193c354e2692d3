import { totalmem } from 'node:os';

import { onePerProcess } from '@/process/onePerProcess';

import { TooBusy } from '../base/failure';

/*
 * What heavy work may take of the machine, and how those who come are let in: in their order, as many as there is room for;
 * the others wait a while, and are then told to come again. Nobody waits for a second room while holding the first of its kind.
 */

const MEGABYTE = 1024 * 1024;

/** Memory that all heavy work together may take: a quarter of the machine’s, or as many megabytes as are set. */
export function memoryBudgetBytes(): number {
  const set = Number(process.env.RED_PLUMB_MEMORY_MB);
  return set >= 64 ? set * MEGABYTE : totalmem() / 4;
}

interface Waiting {
  readonly weight: number;
  readonly enter: () => void;
}

export class Room {
  private taken = 0;
  private readonly queue: Waiting[] = [];

  constructor(
    private readonly size: number,
    private readonly most: { readonly waiting: number; readonly waitMs: number },
  ) {}

  /**
   * Waits for room, then works; the room is free again however that ends.
   * Throws   TooBusy when too many wait already, or none was free for too long; the signal’s reason when it aborts first.
   */
  async within<T>(weight: number, work: () => Promise<T>, signal?: AbortSignal): Promise<T> {
    // What is larger than all of it has the room for itself.
    const own = Math.min(weight, this.size);
    await this.enter(own, signal);
    try {
      return await work();
    } finally {
      this.taken -= own;
      this.next();
    }
  }

  private enter(weight: number, signal?: AbortSignal): Promise<void> {
    if (this.queue.length === 0 && this.taken + weight <= this.size) {
      this.taken += weight;
      return Promise.resolve();
    }
    if (this.queue.length >= this.most.waiting) return Promise.reject(new TooBusy());
    return new Promise((enter, refuse) => {
      const gone = (why: unknown): void => {
        clearTimeout(timer);
        signal?.removeEventListener('abort', aborted);
        const at = this.queue.indexOf(mine);
        if (at >= 0) this.queue.splice(at, 1);
        refuse(why instanceof Error ? why : new TooBusy());
        this.next();
      };
      const aborted = (): void => gone(signal?.reason);
      const timer = setTimeout(() => gone(new TooBusy()), this.most.waitMs);
      const mine: Waiting = {
        weight,
        enter: () => {
          clearTimeout(timer);
          signal?.removeEventListener('abort', aborted);
          this.taken += weight;
          enter();
        },
      };
      signal?.addEventListener('abort', aborted);
      this.queue.push(mine);
    });
  }

  private next(): void {
    while (this.queue[0] && this.taken + this.queue[0].weight <= this.size) this.queue.shift()!.enter();
  }
}

/** Request bodies that are held at once: what comes in is copied about three times until it is read. */
const COPIES_OF_A_BODY = 3;
const LARGE_BODY = MEGABYTE;

/** Large bodies are let in by the memory that they will take; small ones always. */
export function admitted<T>(bytes: number, work: () => Promise<T>): Promise<T> {
  if (bytes <= LARGE_BODY) return work();
  const bodies = onePerProcess(
    'bodies',
    () => new Room(memoryBudgetBytes() / 2, { waiting: 64, waitMs: 30_000 }),
  );
  return bodies.within(COPIES_OF_A_BODY * bytes, work);
}
