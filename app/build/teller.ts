/** Something others listen to. */
export class Teller {
  private readonly listeners = new Set<() => void>();

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  protected tell(): void {
    for (const listener of this.listeners) listener();
  }
}
