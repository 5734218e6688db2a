import type { ProcedurePart } from '@/api/types';
import { codeOf, freeCode } from './codes';

export type ProcedureStep = ProcedurePart['steps'][number];
export type StepDecision = ProcedureStep['decisions'][number];
export type Way = ProcedureStep['ways'][number];
export type Party = ProcedureStep['who'][number];
export type ProcedureAct = ProcedureStep['acts'][number];

export const STEP_KINDS: Record<ProcedureStep['kind'], string> = {
  ask: 'somebody is asked',
  act: 'it acts by itself',
  end: 'an end',
};

export const PARTY_KINDS: Record<Party['kind'], string> = {
  group: 'a group',
  person: 'a person',
  field: 'whom a field names',
  dossier: 'whom its dossier names',
  manager: 'the manager of',
};

export const ACT_KINDS: Record<ProcedureAct['kind'], string> = {
  stamp: 'stamp the first page',
  value: 'give a field a value',
  dossier: 'put into a dossier that exists',
  new_dossier: 'make a dossier of its values',
  notice: 'tell people',
  mail: 'write to somebody outside',
  begin: 'begin another procedure',
  retention: 'start retention',
  lock: 'lock the document',
  release: 'release the lock',
};

/** An act of a kind, with nothing said yet. */
export const newAct = (kind: ProcedureAct['kind']): ProcedureAct => ({
  kind,
  field: '',
  text: '',
  values: [],
  dossier_kind: '',
  procedure: '',
  address: '',
  subject: '',
});

/** A decision that leads somewhere, or nowhere yet. */
export const newDecision = (code: string, label: string, to: string): StepDecision => ({
  code,
  label,
  comment: false,
  fields: [],
  ways: [{ to, criterion: '' }],
});

/** A step with everything there, so that it can be edited. */
export function wholeStep(step: Pick<ProcedureStep, 'code' | 'name' | 'kind'> & Partial<ProcedureStep>): ProcedureStep {
  return {
    who: [],
    mode: 'any',
    not_by: [],
    question: '',
    sheet: [],
    decisions: [],
    deadline: null,
    many: false,
    acts: [],
    ways: [],
    ...step,
  };
}

/** A new step, with what most begin with. */
export function newStep(kind: ProcedureStep['kind'], name: string, steps: ProcedureStep[]): ProcedureStep {
  const code = freeCode(
    codeOf(name) || 'step',
    steps.map((step) => step.code),
  );
  const end = steps.find((step) => step.kind === 'end')?.code ?? '';
  return wholeStep({
    code,
    name,
    kind,
    ...(kind === 'ask'
      ? { decisions: [newDecision('yes', 'Yes', end)] }
      : kind === 'act'
        ? { acts: [newAct('stamp')], ways: [{ to: end, criterion: '' }] }
        : {}),
  });
}

/** The ways on from a step, each with the decision that it belongs to. */
export function waysOf(step: ProcedureStep): { decision: StepDecision | null; way: Way }[] {
  return step.kind === 'ask'
    ? step.decisions.flatMap((decision) => decision.ways.map((way) => ({ decision, way })))
    : step.kind === 'act'
      ? step.ways.map((way) => ({ decision: null, way }))
      : [];
}

/** The steps without one; what led to it leads nowhere until it is said where. */
export function withoutStep(steps: ProcedureStep[], code: string): ProcedureStep[] {
  const open = (ways: Way[]) => ways.map((way) => (way.to === code ? { ...way, to: '' } : way));
  return steps
    .filter((step) => step.code !== code)
    .map((step) => ({
      ...step,
      ways: open(step.ways),
      not_by: step.not_by.filter((other) => other !== code),
      decisions: step.decisions.map((decision) => ({ ...decision, ways: open(decision.ways) })),
    }));
}

/** Who acts in a step, or what it does, in a few words. */
export function saysOf(step: ProcedureStep): string {
  if (step.kind === 'act') return step.acts.map((act) => ACT_KINDS[act.kind]).join(', ') || 'chooses the way on';
  if (step.kind === 'end') return 'end';
  const who = step.who.map((party) => (party.kind === 'group' || party.kind === 'person' ? party.value : PARTY_KINDS[party.kind]));
  return who.filter(Boolean).join(step.mode === 'any' ? ' or ' : step.mode === 'turn' ? ', then ' : ' and ') || 'nobody yet';
}
