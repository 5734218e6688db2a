import { api } from '@/api/client';
import type { GatheringDecision, Proposal, ProposedColumn, ProposedDecision, ProposedReading } from '@/api/types';
import { app } from '@/state/app.svelte';
import { Trying } from '@/state/trying.svelte';
import { draft } from './draft.svelte';

/** Kinds of which a field may have several values. */
const JOINED = ['choice', 'text', 'person', 'identifier'];

/** The table that somebody gave, what is proposed from it, and what they have decided about each column so far. */
export class Proposing {
  proposal = $state.raw<Proposal | null>(null);
  known = $state(false);
  decided = $state<ProposedDecision[]>([]);
  gathered = $state<GatheringDecision[]>([]);
  name = $state('');
  withTypes = $state(true);
  /** The library that takes documents of the types; empty for a new one. */
  library = $state('');
  readonly trying = new Trying();
  #timer: ReturnType<typeof setTimeout> | undefined;

  async load(): Promise<void> {
    await this.trying.run(async () => this.take((await api.proposal()).proposal), 'The proposal could not be loaded. Open this again.');
    this.known = true;
  }

  stop(): void {
    clearTimeout(this.#timer);
  }

  give(file: File, what: Proposal['what'] = 'table'): Promise<void> {
    return this.trying.run(async () => this.take((await api.propose(file, what)).proposal), 'The table was not taken. Try again.');
  }

  /** Of a folder only the paths of its files are sent. */
  giveFolder(files: File[]): Promise<void> {
    const paths = files.map((file) => file.webkitRelativePath || file.name);
    const name = paths[0]?.split('/')[0] ?? 'Folders';
    return this.give(new File([paths.join('\n')], name, { type: 'text/plain' }), 'folders');
  }

  drop(): Promise<void> {
    return this.trying.run(async () => {
      await api.dropProposal();
      this.take(null);
    }, 'The table was not removed. Try again.');
  }

  /** Puts what is accepted into the draft; true when it is there. */
  async accept(): Promise<boolean> {
    let isDone = false;
    await this.trying.run(async () => {
      const got = await api.takeProposal({
        name: this.name.trim(),
        types: this.withTypes,
        columns: $state.snapshot(this.decided),
        gatherings: $state.snapshot(this.gathered),
        library: this.library || null,
        new_library: this.withTypes && this.library === '',
      });
      draft.take(got.draft);
      // What was made is there from now on: added again, nothing is made twice.
      this.take((await api.proposal()).proposal, true);
      app.say(
        [
          got.parts === 0 ? 'All of it is in the design already.' : `${got.parts} parts are in the draft. Publish to bring them into use.`,
          ...got.left,
        ].join(' '),
      );
      isDone = true;
    }, 'Nothing was added to the draft. Try again.');
    return isDone;
  }

  get taken(): number {
    return this.decided.filter((d) => d.take).length;
  }

  column(place: number): ProposedColumn {
    return this.proposal!.columns[place]!;
  }

  /** The field that a column is, if it is there already, and the kind it is read as for that. */
  field(place: number): { kind: string; existing: string | null } {
    const { kind, existing, decided } = this.column(place);
    return decided?.existing ? decided : { kind, existing };
  }

  /** The reading that is chosen for a column. */
  reading(decision: ProposedDecision): ProposedReading {
    const { readings } = this.column(decision.place);
    return readings.find((r) => r.kind === decision.kind) ?? readings[0]!;
  }

  /** Chosen as another kind than the field that is there, a column is a field of its own. */
  choose(decision: ProposedDecision, kind: string): void {
    const { existing } = this.field(decision.place);
    decision.kind = kind;
    decision.existing = kind === this.field(decision.place).kind ? existing : null;
  }

  /** Fields that could have the values of a column too: others of the same kind that are taken themselves. */
  joinable(decision: ProposedDecision): ProposedDecision[] {
    const kinds = this.column(decision.place)
      .readings.map((r) => r.kind)
      .filter((kind) => JOINED.includes(kind));
    return this.decided.filter((d) => d.place !== decision.place && d.take && d.into === null && kinds.includes(d.kind));
  }

  /** Gives the values of a column to the field of another, or (null) to one of its own. */
  join(decision: ProposedDecision, into: number | null): void {
    decision.into = into;
    if (into === null) return;
    decision.tree = false;
    // What went into this one goes along.
    for (const other of this.decided) if (other.into === decision.place) other.into = into;
  }

  /** The column that another refines, where the two can be one tree. */
  above(decision: ProposedDecision): ProposedDecision | null {
    const { depends_on } = this.column(decision.place);
    if (depends_on === null || decision.kind !== 'choice' || decision.existing !== null || decision.into !== null) return null;
    return this.decided[depends_on] ?? null;
  }

  /** In a tree the upper column needs no field of its own. */
  plant(decision: ProposedDecision, isTree: boolean): void {
    decision.tree = isTree;
    const above = this.above(decision);
    if (above) above.take = !isTree;
  }

  /** @param anew whether what was decided is told by the server, though the proposal is the same */
  private take(proposal: Proposal | null, anew = false): void {
    clearTimeout(this.#timer);
    const isNew = proposal !== null && (anew || proposal.id !== this.proposal?.id || proposal.state !== this.proposal.state);
    this.proposal = proposal;
    if (isNew) {
      this.name = proposal.name;
      this.library = app.design?.libraries.find((l) => l.may_change)?.code ?? '';
      this.decided = proposal.columns.map(({ place, name, kind, existing, same_as, distinct, decided }) => ({
        place,
        // The names of the files are the documents’ own.
        take: same_as === null && distinct > 0 && place !== proposal.type_column && (proposal.what === 'table' || place > 0),
        label: name,
        kind,
        existing,
        into: null,
        tree: false,
        adds_terms: false,
        ...decided,
      }));
      this.gathered = proposal.gatherings.map(({ key, as, name, decided }) => ({ key, as, name, ...decided }));
    }
    if (proposal?.state === 'waiting') this.#timer = setTimeout(() => void this.load(), 700);
  }
}
