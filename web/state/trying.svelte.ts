import { messageOf } from '@/api/client';

/** An act that takes a moment and may be refused: whether it is under way, and what was said against it. */
export class Trying {
  busy = $state(false);
  fault = $state('');

  async run(what: () => Promise<void>): Promise<void> {
    this.busy = true;
    this.fault = '';
    try {
      await what();
    } catch (error) {
      this.fault = messageOf(error, 'Nothing was changed. Try again.');
    } finally {
      this.busy = false;
    }
  }
}
