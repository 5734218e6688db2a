import { api, ApiError } from '@/api/client';
import type { Search, Themes } from '@/api/types';

/** What the present result is about: asked for only while somebody looks, and anew with every question. */
export class ResultThemes {
  open = $state(false);
  found = $state.raw<Themes | null>(null);
  fault = $state('');
  busy = $state(false);

  #asked = '';
  #current: AbortController | null = null;

  /** Asks, unless what is here answers the question already. */
  async ask(question: string, search: Search): Promise<void> {
    if (!this.open || question === this.#asked) return;
    this.#asked = question;
    this.#current?.abort();
    const mine = (this.#current = new AbortController());
    this.busy = true;
    this.fault = '';
    try {
      const found = await api.themes(search, mine.signal);
      if (mine === this.#current) this.found = found;
    } catch (error) {
      if (mine !== this.#current) return;
      this.found = null;
      this.#asked = '';
      this.fault = error instanceof ApiError ? error.message : 'The themes cannot be told. Try again.';
    } finally {
      if (mine === this.#current) this.busy = false;
    }
  }
}
