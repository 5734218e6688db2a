/**
 * Something that is read whole and changed by calls that overlap. An answer is shown only if no change came while it
 * was on its way; otherwise the whole is read again once the changes are through; and none that was asked for before one
 * that is shown. So what was just done never vanishes under an older answer.
 */
export class Whole<T> {
  #changes = 0;
  #running = 0;
  #owed = false;
  #asked = 0;
  #shown = 0;

  constructor(
    private readonly ask: () => Promise<T>,
    private readonly show: (whole: T) => void,
  ) {}

  async read(): Promise<void> {
    const before = this.#changes;
    const asked = ++this.#asked;
    const whole = await this.ask();
    if (asked < this.#shown) return;
    if (before === this.#changes) {
      this.#shown = asked;
      this.show(whole);
    } else if (this.#running > 0) this.#owed = true;
    else await this.read();
  }

  /**
   * Makes a change. `whole` takes from its answer the whole as it is afterwards, or shows the part that the answer
   * holds and gives nothing back.
   */
  async change<A>(act: () => Promise<A>, whole: (answer: A) => T | undefined): Promise<A> {
    const begun = ++this.#changes;
    this.#running++;
    try {
      const answer = await act();
      const after = whole(answer);
      if (after !== undefined && begun === this.#changes) {
        this.show(after);
        this.#owed = false;
      } else if (after !== undefined) this.#owed = true;
      return answer;
    } finally {
      this.#changes++;
      this.#running--;
      if (this.#owed && this.#running === 0) {
        this.#owed = false;
        // What was changed stands; that it could not be read again is no fault of the change.
        await this.read().catch(() => undefined);
      }
    }
  }
}
