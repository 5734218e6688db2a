import { describe, expect, it } from 'vitest';
import { atLeaf, nextLevel } from './steps';

const step = (level: number, below: string | null) => ({ cql: 'x', label: 'x', level, below });
const view = { levels: [{ field: 'reach' }, { field: 'year' }] } as never;

describe('steps into a view', () => {
  it('go to the next level, or further down in the same one', () => {
    expect(nextLevel([])).toEqual({ level: 0, below: null });
    expect(nextLevel([step(0, null)])).toEqual({ level: 1, below: null });
    expect(nextLevel([step(0, 'n')])).toEqual({ level: 0, below: 'n' });
    expect(nextLevel([step(0, 'n'), step(0, null)])).toEqual({ level: 1, below: null });
  });

  it('end where nothing divides further', () => {
    expect(atLeaf(view, [])).toBe(false);
    expect(atLeaf(view, [step(0, null), step(1, '2019')])).toBe(false);
    expect(atLeaf(view, [step(0, null), step(1, null)])).toBe(true);
  });
});
