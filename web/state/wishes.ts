/** Collects what is wished for one by one in the same moment, and asks for it together, each once. */
export class Wishes {
  private readonly asked = new Set<string>();
  private waiting: string[] = [];

  constructor(
    private readonly ask: (wishes: string[]) => Promise<void>,
    private readonly most: number,
  ) {}

  wish(key: string): void {
    if (this.asked.has(key)) return;
    this.asked.add(key);
    this.waiting.push(key);
    if (this.waiting.length > 1) return;
    queueMicrotask(() => {
      const wishes = this.waiting;
      this.waiting = [];
      for (let at = 0; at < wishes.length; at += this.most) {
        const some = wishes.slice(at, at + this.most);
        // What could not be had may be wished for again.
        this.ask(some).catch(() => some.forEach((key) => this.asked.delete(key)));
      }
    });
  }
}
