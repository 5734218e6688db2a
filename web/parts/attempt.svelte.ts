import { ApiError, messageOf } from '@/api/client';

/** A form that is sent: while it is, nothing is sent again; what was wrong stands at its fields. */
export class Attempt {
  busy = $state(false);
  faults = $state<Record<string, string>>({});

  /**
   * Does something.
   *
   * @param field where a fault is said that is of no field
   * @param otherwise what is said where the server said nothing
   * @returns whether it was done
   */
  async run(what: () => Promise<void>, field: string, otherwise = 'Nothing was changed. Try again.'): Promise<boolean> {
    this.busy = true;
    this.faults = {};
    try {
      await what();
      return true;
    } catch (error) {
      const fields = error instanceof ApiError ? error.fields : {};
      this.faults = Object.keys(fields).length > 0 ? fields : { [field]: messageOf(error, otherwise) };
      return false;
    } finally {
      this.busy = false;
    }
  }
}
