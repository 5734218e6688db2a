import { describe, expect, it } from 'vitest';
import { codeOf, freeCode, termsOf } from './codes';

describe('codes', () => {
  it('are made of names', () => {
    expect(codeOf('Écluse no. 4')).toBe('ecluse_no_4');
    expect(codeOf('2024 survey')).toBe('survey');
    expect(codeOf('渠')).toBe('');
    expect(codeOf('a'.repeat(60))).toHaveLength(40);
  });

  it('take the first number that is free', () => {
    expect(freeCode('depth', [])).toBe('depth');
    expect(freeCode('depth', ['depth', 'depth_2'])).toBe('depth_3');
  });

  it('are told apart where labels make the same one', () => {
    expect(termsOf(' Good \n\nPoor\nGood\npoor!\n渠').map((t) => [t.code, t.label])).toEqual([
      ['good', 'Good'],
      ['poor', 'Poor'],
      ['poor_2', 'poor!'],
      ['term', '渠'],
    ]);
  });

  it('say behind a colon what a term may be chosen under, where the choice depends on something', () => {
    const lines = 'Swan Dock: River Tarn, Sea Lock\nAny berth\nTide: ';
    expect(termsOf(lines, true).map((t) => [t.label, t.under])).toEqual([
      ['Swan Dock', ['River Tarn', 'Sea Lock']],
      ['Any berth', []],
      ['Tide', []],
    ]);
    expect(termsOf(lines).map((t) => t.label)).toEqual(['Swan Dock: River Tarn, Sea Lock', 'Any berth', 'Tide:']);
  });
});
