import { api, ApiError, messageOf } from '@/api/client';
import type { OfficeAnswer, OfficePerson } from '@/api/types';

/** What is typed of a person, new or there. */
export interface PersonDraft {
  name: string;
  sign_in: string;
  mail: string | null;
  role: string;
  groups: string[];
  known_by: string;
}

/** The people of the office, and the one that is looked at. */
export class People {
  answer = $state.raw<OfficeAnswer | null>(null);
  /** 0 for a new one; null for none. */
  chosen = $state<number | null>(null);
  draft = $state<PersonDraft>({ name: '', sign_in: '', mail: null, role: 'reader', groups: [], known_by: 'brenvic' });
  faults = $state<Record<string, string>>({});
  fault = $state('');
  busy = $state(false);
  /** A code that was just made, to be handed over now: it is shown once. */
  code = $state.raw<OfficeAnswer['code'] | null>(null);

  get person(): OfficePerson | undefined {
    return this.answer?.people.find((p) => p.id === this.chosen);
  }

  get changed(): boolean {
    const now = this.person;
    return (
      now === undefined ||
      now.name !== this.draft.name.trim() ||
      now.mail !== this.draft.mail ||
      now.role !== this.draft.role ||
      now.known_by !== this.draft.known_by ||
      [...now.groups].sort().join('\n') !== [...this.draft.groups].sort().join('\n')
    );
  }

  /** Who could take over what somebody has in hand. */
  heirs(person: OfficePerson): OfficePerson[] {
    return (this.answer?.people ?? []).filter((p) => p.id !== person.id && p.out_of_use_at === null);
  }

  async load(): Promise<void> {
    await this.act(() => api.office());
  }

  choose(id: number): void {
    this.chosen = id;
    this.faults = {};
    this.fault = '';
    this.code = null;
    const person = this.person;
    this.draft = person
      ? {
          name: person.name,
          sign_in: person.sign_in,
          mail: person.mail,
          role: person.role,
          groups: [...person.groups],
          known_by: person.known_by,
        }
      : {
          name: '',
          sign_in: '',
          mail: null,
          role: 'reader',
          groups: this.answer?.groups.includes('Everyone') ? ['Everyone'] : [],
          known_by: 'brenvic',
        };
  }

  async save(): Promise<boolean> {
    const { name, sign_in, mail, role, groups, known_by } = this.draft;
    const person = this.person;
    return this.act(() =>
      person
        ? api.changePerson(person.id, { name: name.trim(), mail, role, groups, known_by })
        : api.addPerson({ name: name.trim(), sign_in: sign_in.trim(), mail, role, groups, known_by }),
    );
  }

  async act(what: () => Promise<OfficeAnswer>): Promise<boolean> {
    this.busy = true;
    this.faults = {};
    this.fault = '';
    try {
      const answer = await what();
      this.answer = answer;
      const code = answer.code ?? null;
      if (code) this.choose(answer.people.find((p) => p.sign_in === code.sign_in)?.id ?? 0);
      this.code = code;
      return true;
    } catch (error) {
      if (error instanceof ApiError && Object.keys(error.fields).length > 0) this.faults = error.fields;
      else this.fault = messageOf(error, 'Nothing was changed. Try again.');
      return false;
    } finally {
      this.busy = false;
    }
  }
}

/** A sign-in name made of a name: the first letter and the last word. */
export function signInOf(name: string): string {
  const words = name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9 ]+/g, '')
    .split(' ')
    .filter(Boolean);
  const last = words.at(-1) ?? '';
  return words.length > 1 ? `${words[0]![0]}.${last}` : last;
}
