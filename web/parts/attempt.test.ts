import { expect, it } from 'vitest';
import { ApiError } from '@/api/client';
import { Attempt } from './attempt.svelte';

it('says what is wrong at its fields, or at one where it is of none, and nothing once it is done', async () => {
  const attempt = new Attempt();
  const failing = (error: unknown) =>
    attempt.run(() => {
      throw error;
    }, 'name');
  expect(await failing(new ApiError(422, 'invalid', 'Some values', { mail: 'This is not an address.' }))).toBe(false);
  expect(attempt.faults).toEqual({ mail: 'This is not an address.' });
  await failing(new ApiError(409, 'refused', 'Somebody was quicker.'));
  expect(attempt.faults).toEqual({ name: 'Somebody was quicker.' });
  await failing('nothing that was thrown on purpose');
  expect(attempt.faults).toEqual({ name: 'Nothing was changed. Try again.' });
  let during = false;
  expect(
    await attempt.run(async () => {
      during = attempt.busy;
    }, 'name'),
  ).toBe(true);
  expect([during, attempt.busy, attempt.faults]).toEqual([true, false, {}]);
});
