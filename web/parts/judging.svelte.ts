import { api, ApiError } from '@/api/client';
import type { Field } from '@/api/types';

const WAIT = 300;

/** Judges an identifier while it is typed: once it is as long as its pattern, the server says whether its check character fits. */
export class Judging {
  /** What is wrong with what is typed; empty while that is not known. */
  fault = $state('');
  isRight = $state(false);
  #timer: ReturnType<typeof setTimeout> | undefined;
  #asked = '';

  judge(field: Pick<Field, 'code' | 'pattern'>, typed: string): void {
    clearTimeout(this.#timer);
    const value = typed.trim();
    this.#asked = value;
    this.fault = '';
    this.isRight = false;
    if (!field.pattern.endsWith('?') || value.length < field.pattern.length) return;
    this.#timer = setTimeout(() => void this.#ask(field.code, value), WAIT);
  }

  async #ask(code: string, value: string): Promise<void> {
    let fault = '';
    try {
      await api.criterion(code, 'is', [value]);
    } catch (error) {
      // What cannot be asked now is judged when it is saved.
      if (!(error instanceof ApiError) || !error.fields.value) return;
      fault = error.fields.value;
    }
    if (this.#asked !== value) return;
    this.fault = fault;
    this.isRight = fault === '';
  }

  stop(): void {
    clearTimeout(this.#timer);
  }
}
