import { messageOf } from '@/api/client';

/** An act that takes a moment and may be refused: whether it is under way, and what was said against it. */
export class Trying {
  busy = $state(false);
  fault = $state('');

  /** @param otherwise what is said when the fault says nothing itself */
  async run(what: () => Promise<void>, otherwise = 'Nothing was changed. Try again.'): Promise<void> {
    this.busy = true;
    this.fault = '';
    try {
      await what();
    } catch (error) {
      this.fault = messageOf(error, otherwise);
    } finally {
      this.busy = false;
    }
  }
}
