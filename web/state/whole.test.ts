import { describe, expect, it, vi } from 'vitest';
import { Whole } from './whole';

/** A promise that is kept when the test says so. */
function later<T>() {
  let keep!: (value: T) => void;
  let breakIt!: (fault: Error) => void;
  const promise = new Promise<T>((resolve, reject) => {
    keep = resolve;
    breakIt = reject;
  });
  return { promise, keep, breakIt };
}

describe('something that is read whole', () => {
  it('is shown as it was read', async () => {
    const show = vi.fn();
    await new Whole(async () => 'all', show).read();
    expect(show.mock.calls).toEqual([['all']]);
  });

  it('is read again when a change came in between, so that what was done does not vanish', async () => {
    const show = vi.fn();
    const answers = [later<string>(), later<string>()];
    let asked = 0;
    const whole = new Whole(() => answers[asked++]!.promise, show);
    const reading = whole.read();
    await whole.change(
      async () => 'changed',
      () => undefined,
    );
    answers[0]!.keep('old');
    await Promise.resolve();
    answers[1]!.keep('new');
    await reading;
    expect(show.mock.calls).toEqual([['new']]);
  });

  it('is not shown as it was asked for before what is shown', async () => {
    const show = vi.fn();
    const answers = [later<string>(), later<string>()];
    let asked = 0;
    const whole = new Whole(() => answers[asked++]!.promise, show);
    const [first, second] = [whole.read(), whole.read()];
    answers[1]!.keep('new');
    await second;
    answers[0]!.keep('old');
    await first;
    expect(show.mock.calls).toEqual([['new']]);
  });

  it('is shown as the newest change left it, and read again after changes that overlapped', async () => {
    const show = vi.fn();
    const [first, second] = [later<string>(), later<string>()];
    const whole = new Whole(async () => 'read again', show);
    const one = whole.change(
      () => first.promise,
      (answer) => answer,
    );
    const two = whole.change(
      () => second.promise,
      (answer) => answer,
    );
    second.keep('second');
    await two;
    first.keep('first');
    await one;
    // The answer of the first is older than the second change.
    expect(show.mock.calls.at(-1)).toEqual(['read again']);
    expect(show.mock.calls.flat()).not.toContain('first');
  });

  it('stays as it is when a change fails, and the fault is the caller’s', async () => {
    const show = vi.fn();
    const whole = new Whole(async () => 'all', show);
    await expect(
      whole.change(
        () => Promise.reject(new Error('no')),
        () => 'x',
      ),
    ).rejects.toThrow('no');
    expect(show).not.toHaveBeenCalled();
  });

  it('does not blame a change for what could not be read after it', async () => {
    const [first, second] = [later<string>(), later<string>()];
    const whole = new Whole<string>(
      () => Promise.reject(new Error('offline')),
      () => undefined,
    );
    const one = whole.change(
      () => first.promise,
      (answer) => answer,
    );
    const two = whole.change(
      () => second.promise,
      (answer) => answer,
    );
    first.keep('a');
    await expect(one).resolves.toBe('a');
    second.keep('b');
    await expect(two).resolves.toBe('b');
  });
});
