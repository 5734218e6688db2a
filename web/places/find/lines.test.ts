import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Lines } from './lines.svelte';

const rows = (n: number, of: number) => Array.from({ length: n }, (_, i) => ({ ref: `${of}.${i}` })) as never[];

describe('lines of a list with what is attached', () => {
  it('are those of a list that is written out', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ row: fc.nat({ max: 20 }), attached: fc.integer({ min: 1, max: 4 }), close: fc.boolean() }), { maxLength: 12 }),
        (acts) => {
          const lines = new Lines();
          const open = new Map<number, number>();
          for (const { row, attached, close } of acts) {
            if (close) {
              lines.close(row);
              open.delete(row);
            } else {
              lines.open(row, rows(attached, row));
              open.set(row, attached);
            }
          }
          // Row by row, each with what is attached to it below.
          const written = Array.from({ length: 22 }, (_, row) => [
            { row, attached: null as string | null },
            ...Array.from({ length: open.get(row) ?? 0 }, (_, i) => ({ row, attached: `${row}.${i}` })),
          ]).flat();
          written.forEach(({ row, attached }, line) => {
            const at = lines.at(line);
            expect([at.index, (at.attached as { ref: string } | null)?.ref ?? null]).toEqual([row, attached]);
            if (attached === null) expect(lines.of(row)).toBe(line);
          });
          expect(lines.more).toBe([...open.values()].reduce((sum, n) => sum + n, 0));
          for (let row = 0; row < 22; row++) expect(lines.isOpen(row)).toBe(open.has(row));
          lines.clear();
          expect([lines.more, lines.at(7).index]).toEqual([0, 7]);
        },
      ),
    );
  });
});
