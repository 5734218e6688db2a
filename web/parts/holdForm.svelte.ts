import { api } from '@/api/client';
import type { Hold } from '@/api/types';
import { Attempt } from './attempt.svelte';

/** What is written of a hold, and who keeps it. */
export class HoldForm extends Attempt {
  name = $state('');
  reason = $state('');
  from = $state('');
  until = $state('');
  owner = $state('');
  custodians = $state<string[]>([]);
  people = $state.raw<{ sign_in: string; name: string }[]>([]);

  constructor() {
    super();
    api.holdPeople().then(
      (got) => (this.people = got.people),
      () => undefined,
    );
  }

  /** Takes what a hold says, to change it. */
  take(hold: Hold): void {
    this.name = hold.name;
    this.reason = hold.reason;
    this.until = hold.until ?? '';
    this.owner = hold.owner_sign_in;
    this.custodians = hold.people.map((p) => p.sign_in);
    this.faults = {};
  }

  /** Those who may keep it, and those who do though one could not choose them. */
  choices(hold: Hold | null): { sign_in: string; name: string }[] {
    const known = this.people.map((p) => p.sign_in);
    return [...this.people, ...(hold?.people ?? []).filter((p) => !known.includes(p.sign_in))];
  }

  get words() {
    return { name: this.name.trim(), reason: this.reason.trim(), until: this.until || null, custodians: this.custodians };
  }
}
