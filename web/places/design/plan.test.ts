import { describe, expect, it } from 'vitest';
import { planOf } from './plan';
import { newAct, newDecision, newStep, saysOf, waysOf, wholeStep, withoutStep, type ProcedureStep } from './procedure';

const ask = (code: string, leads: Record<string, string>, more: Partial<ProcedureStep> = {}): ProcedureStep =>
  wholeStep({
    code,
    name: code,
    kind: 'ask',
    who: [{ kind: 'group', value: 'Works office' }],
    question: '?',
    decisions: Object.entries(leads).map(([label, to]) => newDecision(label, label, to)),
    ...more,
  });
const end = (code: string): ProcedureStep => wholeStep({ code, name: code, kind: 'end' });

/** Procedures made by chance, the same at each run. */
function anySteps(seed: number): ProcedureStep[] {
  let state = seed * 2_654_435_761;
  const upTo = (n: number) => {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
    return Math.floor((state / 2_147_483_648) * n);
  };
  const codes = Array.from({ length: 2 + upTo(9) }, (_, i) => `s${i}`);
  const all = [...codes, 'done', 'given_up'];
  const steps = codes.map((code) =>
    ask(code, Object.fromEntries(Array.from({ length: 1 + upTo(3) }, (_, i) => [`d${i}`, all[upTo(all.length)]!]))),
  );
  return [...steps, end('done'), end('given_up')];
}

describe('the plan of a procedure', () => {
  it('has every step once and every way on, whatever the procedure is like', () => {
    for (let seed = 1; seed <= 300; seed++) {
      const steps = anySteps(seed);
      const plan = planOf(steps);
      expect(plan.nodes.map((node) => node.code)).toEqual(steps.map((step) => step.code));
      expect(plan.lines).toHaveLength(steps.flatMap((step) => waysOf(step)).length);
    }
  });

  it('lays no step over another, and everything within the picture', () => {
    for (let seed = 1; seed <= 300; seed++) {
      const { nodes, width, height } = planOf(anySteps(seed));
      const outside = nodes.filter((a) => a.x < 0 || a.y < 0 || a.x + a.width > width || a.y + a.height > height);
      const over = nodes.flatMap((a, i) =>
        nodes
          .slice(i + 1)
          .filter((b) => a.x + a.width > b.x && b.x + b.width > a.x && a.y + a.height > b.y && b.y + b.height > a.y)
          .map((b) => `${a.code} and ${b.code}`),
      );
      expect({ seed, outside, over }).toEqual({ seed, outside: [], over: [] });
    }
  });

  it('leads down, but for what leads back', () => {
    for (let seed = 1; seed <= 300; seed++) {
      const { nodes, lines } = planOf(anySteps(seed));
      const at = new Map(nodes.map((node) => [node.code, node.y]));
      expect(lines.filter((line) => !line.back && at.get(line.to)! <= at.get(line.from)!)).toEqual([]);
    }
  });

  it('is the same at each drawing', () => {
    expect(planOf(anySteps(7))).toEqual(planOf(anySteps(7)));
  });

  it('marks what closes a circle, and nothing else', () => {
    const { lines } = planOf([ask('check', { Yes: 'sign', No: 'done' }), ask('sign', { Yes: 'done', Again: 'check' }), end('done')]);
    expect(lines.filter((line) => line.back).map((line) => `${line.from} ${line.label} ${line.to}`)).toEqual(['sign Again check']);
  });

  it('leaves out what leads nowhere', () => {
    expect(planOf([ask('check', { Yes: '' }), end('done')]).lines).toEqual([]);
    expect(planOf([]).nodes).toEqual([]);
  });
});

describe('the steps of a procedure', () => {
  it('begins a step with a code of its own and a way to an end', () => {
    const steps = [newStep('ask', 'Check', []), end('done')];
    const next = newStep('ask', 'Check', steps);
    expect(next.code).toBe('check_2');
    expect(next.decisions[0]!.ways).toEqual([{ to: 'done', criterion: '' }]);
  });

  it('opens the ways that led to a step that is gone', () => {
    const left = withoutStep([ask('a', { Yes: 'b' }), ask('b', { Yes: 'done' }, { not_by: ['a', 'filer'] }), end('done')], 'b');
    expect(left.map((step) => step.code)).toEqual(['a', 'done']);
    expect(waysOf(left[0]!)[0]!.way.to).toBe('');
    expect(withoutStep([ask('a', {}), ask('b', {}, { not_by: ['a', 'filer'] })], 'a')[0]!.not_by).toEqual(['filer']);
  });

  it('says who acts, and what is done', () => {
    const both = [
      { kind: 'group' as const, value: 'Works office' },
      { kind: 'person' as const, value: 'manager' },
    ];
    expect(saysOf(ask('a', {}, { who: both }))).toBe('Works office or manager');
    expect(saysOf(ask('a', {}, { who: both, mode: 'turn' }))).toBe('Works office, then manager');
    expect(saysOf(ask('a', {}, { who: [] }))).toBe('nobody yet');
    expect(saysOf(wholeStep({ code: 'x', name: 'x', kind: 'act', acts: [newAct('lock')] }))).toBe('lock the document');
  });
});
