/** Work that goes one after the other, whatever became of the one before it. */
export class Queue {
  private last: Promise<unknown> = Promise.resolve()

  /** Carries out `work` when its turn comes; answers what it gave. */
  inTurn<T>(work: () => Promise<T>): Promise<T> {
    const next = this.last.then(work, work)
    this.last = next.catch(() => undefined)
    return next
  }

  /** Once all that waits now is done. */
  async done(): Promise<void> {
    await this.last
  }
}
