import { api } from '@/api/client';

/** How much waits in intake for this person, for the tab. */
class Inbox {
  waiting = $state(0);
  #timer: ReturnType<typeof setInterval> | undefined;

  /** Looks now and then; in Intake itself it is told more often. */
  watch(): void {
    if (this.#timer) return;
    const look = () =>
      api.waitingCount().then(
        (got) => (this.waiting = got.waiting),
        () => undefined,
      );
    void look();
    this.#timer = setInterval(() => {
      if (!document.hidden) void look();
    }, 60_000);
  }
}

export const inbox = new Inbox();
