import { expect, it } from 'vitest';
import { Wishes } from './wishes';

it('asks once for what is wished for in one moment, in batches', async () => {
  const asked: string[][] = [];
  const wishes = new Wishes((keys) => (asked.push(keys), Promise.resolve()), 2);
  for (const key of ['a', 'b', 'a', 'c']) wishes.wish(key);
  expect(asked).toEqual([]);
  await Promise.resolve();
  expect(asked).toEqual([['a', 'b'], ['c']]);
  wishes.wish('a');
  await Promise.resolve();
  expect(asked).toHaveLength(2);
});

it('asks again for what could not be had', async () => {
  let tries = 0;
  const wishes = new Wishes(() => (++tries === 1 ? Promise.reject(new Error('away')) : Promise.resolve()), 10);
  wishes.wish('a');
  await Promise.resolve();
  await Promise.resolve();
  await Promise.resolve();
  wishes.wish('a');
  await Promise.resolve();
  expect(tries).toBe(2);
});
