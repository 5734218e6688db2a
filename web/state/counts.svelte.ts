import { api } from '@/api/client';

/** What waits for this person, and what they were told and have not looked at, for the tabs. */
class Counts {
  mine = $state(0);
  groups = $state(0);
  notices = $state(0);
  #timer: ReturnType<typeof setInterval> | undefined;

  async look(): Promise<void> {
    const got = await api.counts().catch(() => null);
    if (!got) return;
    this.mine = got.tasks.mine;
    this.groups = got.tasks.groups;
    this.notices = got.notices;
  }

  /** Looks now and then. */
  watch(): void {
    if (this.#timer) return;
    void this.look();
    this.#timer = setInterval(() => {
      if (!document.hidden) void this.look();
    }, 30_000);
  }
}

export const counts = new Counts();
