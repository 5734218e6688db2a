import { describe, expect, it } from 'vitest';
import { tableOf } from './table';

const texts = (table: ReturnType<typeof tableOf>) => table.map((row) => row.map((cell) => cell.map(([text]) => text).join('')));

describe('a table of comma-separated values', () => {
  it('is cut at the sign that its first line has most of', () => {
    expect(texts(tableOf([['a,b\n1,2\n', false]]))).toEqual([
      ['a', 'b'],
      ['1', '2'],
    ]);
    expect(texts(tableOf([['a;b;c, d\n1;2,5;3\n', false]]))).toEqual([
      ['a', 'b', 'c, d'],
      ['1', '2,5', '3'],
    ]);
    expect(texts(tableOf([['a\tb\r\n1\t2\r\n', false]]))).toEqual([
      ['a', 'b'],
      ['1', '2'],
    ]);
  });

  it('keeps quoted signs, quotes and ends of lines within their cell', () => {
    expect(texts(tableOf([['a,"b, ""c""\nd"\n1,2', false]]))).toEqual([
      ['a', 'b, "c"\nd'],
      ['1', '2'],
    ]);
  });

  it('keeps what was found marked, over the ends of pieces', () => {
    const table = tableOf([
      ['Lock,State\nLK-1,the ', false],
      ['gate', true],
      [' seeps, ', false],
      ['gate', true],
    ]);
    expect(table[1]).toEqual([
      [['LK-1', false]],
      [
        ['the ', false],
        ['gate', true],
        [' seeps', false],
      ],
      [
        [' ', false],
        ['gate', true],
      ],
    ]);
  });

  it('leaves out empty lines, and keeps empty cells', () => {
    expect(texts(tableOf([['a,b\n\n,2\n\n', false]]))).toEqual([
      ['a', 'b'],
      ['', '2'],
    ]);
  });
});
