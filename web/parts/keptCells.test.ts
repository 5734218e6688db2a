import { describe, expect, it, vi } from 'vitest';
import { KeptCells } from './keptCells';

vi.mock('@/state/drafts', () => ({ drafts: null }));

function store() {
  const map = new Map<string, string>();
  return {
    map,
    getItem: (k: string) => map.get(k) ?? null,
    setItem: (k: string, v: string) => void map.set(k, v),
    removeItem: (k: string) => void map.delete(k),
  };
}
const row = (ref: string, lock_version = 1) => ({ ref, lock_version });

describe('cells typed and not saved', () => {
  it('come back for documents that nobody changed since', () => {
    const kept = store();
    new KeptCells(kept).write({ A: { depth: '1,5' }, B: { depth: '2' } }, [row('A'), row('B'), row('C')]);
    expect(new KeptCells(kept).read([row('A'), row('B', 2), row('C')])).toEqual({ A: { depth: '1,5' } });
  });

  it('are forgotten when saved, and only those', () => {
    const kept = store();
    new KeptCells(kept).write({ A: { depth: '1' }, B: { depth: 'x' } }, [row('A'), row('B')]);
    new KeptCells(kept).write({ B: { depth: 'x' } }, [row('A'), row('B')]);
    expect(new KeptCells(kept).read([row('A'), row('B')])).toEqual({ B: { depth: 'x' } });
    new KeptCells(kept).write({ B: {} }, [row('B')]);
    expect(kept.map.size).toBe(0);
  });

  it('leave what another table keeps alone, and bear what is no table', () => {
    const kept = store();
    new KeptCells(kept).write({ A: { depth: '1' } }, [row('A')]);
    new KeptCells(kept).write({ B: { depth: '2' } }, [row('B')]);
    expect(new KeptCells(kept).read([row('A')])).toEqual({ A: { depth: '1' } });
    kept.setItem('table', '{');
    expect(new KeptCells(kept).read([row('A')])).toEqual({});
  });
});
