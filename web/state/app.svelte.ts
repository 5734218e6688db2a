import { api, messageOf, whenSessionEnds } from '@/api/client';
import type { Design, Field, Kind, Library, Person, Preferences, SystemField, Term, Vocabulary } from '@/api/types';
import { lastActs } from './acts.svelte';
import { writeAs } from './written.svelte';

/** Who is here, and the design they work with. */
class App {
  person = $state.raw<Person | null>(null);
  known = $state(false);
  design = $state.raw<Design | null>(null);
  /** Whether the design is the draft, as it is while somebody designs. */
  isDraft = $state(false);
  /** Counts the designs that came: what was learned of one does not hold for the next. */
  revision = 0;
  /** One sentence at the foot of the window, with an act that takes it back if there is one. */
  notice = $state.raw<{ text: string; undo?: () => unknown; wrong?: boolean } | null>(null);
  #timer: ReturnType<typeof setTimeout> | undefined;

  /** Whoever was signed in is asked to sign in again; what was under way waits for it. */
  signedOut = $state.raw<{ done: (again: boolean) => void } | null>(null);
  #again: Promise<boolean> | null = null;

  /** Once for all that is asked meanwhile. */
  private signInAgain(): Promise<boolean> {
    this.#again ??= new Promise<boolean>((resolve) => {
      this.signedOut = {
        done: (again) => {
          this.signedOut = null;
          this.#again = null;
          resolve(again);
        },
      };
    });
    return this.#again;
  }

  async start(): Promise<void> {
    this.person = (await api.session()).user;
    writeAs(this.person?.preferences ?? {});
    whenSessionEnds(() => (this.person ? this.signInAgain() : Promise.resolve(false)));
    if (this.person) await this.loadDesign();
    this.known = true;
  }

  async loadDesign(): Promise<void> {
    this.takeDesign(await api.design(), false);
  }

  takeDesign(design: Design, isDraft: boolean): void {
    this.revision++;
    this.isDraft = isDraft;
    this.design = design;
  }

  /** Keeps something for the person, here at once and on the server. */
  async prefer(given: Partial<Preferences>): Promise<void> {
    if (!this.person) return;
    this.person = { ...this.person, preferences: { ...this.person.preferences, ...given } };
    writeAs(this.person.preferences);
    await api.preferences(given).catch(() => this.say('This could not be kept for the next time.', { wrong: true }));
  }

  async signOut(): Promise<void> {
    await api.signOut();
    // Nothing of one person stays in memory for the next.
    location.assign('/');
  }

  /** Says what went wrong. */
  fail(error: unknown, otherwise: string): void {
    this.say(messageOf(error, otherwise), { wrong: true });
  }

  /** @param more.kept whether the server keeps the act, so that it is among the last acts without this window */
  say(text: string, more: { undo?: () => unknown; kept?: boolean; wrong?: boolean } = {}): void {
    clearTimeout(this.#timer);
    const undo = more.undo && !more.kept ? lastActs.add(text, more.undo) : more.undo;
    this.notice = { text, undo, wrong: more.wrong };
    const stays = this.person?.preferences.notices ?? 'short';
    if (stays === 'stay') return;
    this.#timer = setTimeout(() => (this.notice = null), (more.undo || more.wrong ? 12_000 : 5_000) * (stays === 'long' ? 3 : 1));
  }

  field(code: string): Field | SystemField | undefined {
    return this.design?.fields.find((f) => f.code === code) ?? this.design?.system_fields.find((f) => f.code === code);
  }

  /** The kind of a field, of which the server tells what it can do. */
  kind(field: { kind: string } | undefined): Kind | undefined {
    return this.design?.kinds.find((k) => k.value === field?.kind);
  }

  /** Whether a tool of the reader is shown to this person. */
  hasTool(tool: string): boolean {
    return !this.person?.preferences.reader_hidden?.includes(tool);
  }

  /** How far plain words reach for this person. */
  get reach(): NonNullable<Preferences['reach']> {
    return this.person?.preferences.reach ?? this.design?.words.office_reach ?? 'same_stem';
  }

  label(code: string): string {
    return { title: 'Title', path: 'Path' }[code] ?? this.field(code)?.label ?? code;
  }

  /** The terms a choice field takes, or none. */
  terms(field: Field | SystemField): Term[] {
    if ('terms' in field) return field.terms;
    return this.vocabulary(field)?.terms ?? [];
  }

  vocabulary(field: Field | SystemField): Vocabulary | undefined {
    return 'vocabulary' in field ? this.design?.vocabularies.find((v) => v.code === field.vocabulary) : undefined;
  }

  library(code: string): Library | undefined {
    return this.design?.libraries.find((l) => l.code === code);
  }
}

export const app = new App();

/** Whether somebody answers for documents in any way that Oversight is for. */
export const looksOver = (person: Person): boolean => {
  const { oversee, hold, remove, destroy } = person.may;
  return oversee || hold || remove || destroy;
};
