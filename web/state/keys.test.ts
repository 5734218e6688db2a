import { describe, expect, it, vi } from 'vitest';
import { Keys, lead, type Key } from './keys.svelte';

/** What a key event tells, with an element that fits some selectors. */
function pressed(key: string, more: { ctrl?: boolean; alt?: boolean; within?: string; prevented?: boolean } = {}) {
  const preventDefault = vi.fn();
  return {
    key,
    ctrlKey: more.ctrl ?? false,
    metaKey: false,
    altKey: more.alt ?? false,
    defaultPrevented: more.prevented ?? false,
    target: { closest: (selector: string) => (more.within && selector.includes(more.within) ? {} : null) },
    preventDefault,
  } as unknown as KeyboardEvent & { preventDefault: typeof preventDefault };
}

function table(...sets: Key[][]): Keys {
  const keys = new Keys();
  for (const set of sets) keys.add(() => set);
  return keys;
}

describe('the table of keys', () => {
  it('does what the newest part on the screen says', () => {
    const [first, second] = [vi.fn(), vi.fn()];
    const keys = table([{ on: 'x', run: first }], [{ on: 'x', run: second }]);
    const event = pressed('x');
    keys.handle(event);
    expect(second).toHaveBeenCalledOnce();
    expect(first).not.toHaveBeenCalled();
    expect(event.preventDefault).toHaveBeenCalledOnce();
  });

  it('leaves a key to the part below when it does nothing now, or is taken away', () => {
    const [first, second] = [vi.fn(), vi.fn()];
    const keys = table([{ on: 'x', run: first }]);
    const away = keys.add(() => [{ on: 'x', run: second, when: () => false }]);
    keys.handle(pressed('x'));
    expect(first).toHaveBeenCalledOnce();
    away();
    const gone = keys.add(() => [{ on: 'x', run: second }]);
    gone();
    keys.handle(pressed('x'));
    expect(first).toHaveBeenCalledTimes(2);
    expect(second).not.toHaveBeenCalled();
  });

  it('leaves alone what is typed, what is held with other keys, and what a dialog or somebody else has', () => {
    const run = vi.fn();
    const keys = table([{ on: 'x', run }]);
    for (const event of [
      pressed('x', { within: 'textarea' }),
      pressed('x', { ctrl: true }),
      pressed('x', { alt: true }),
      pressed('x', { within: '[role=dialog]' }),
      pressed('x', { prevented: true }),
      pressed('y'),
    ]) {
      keys.handle(event);
      expect(event.preventDefault).not.toHaveBeenCalled();
    }
    expect(run).not.toHaveBeenCalled();
  });

  it('takes keys with Ctrl, while something is typed only those that say so', () => {
    const [save, undo] = [vi.fn(), vi.fn()];
    const keys = table([
      { on: 'Enter', ctrl: true, typing: true, run: save },
      { on: 'z', ctrl: true, run: undo },
    ]);
    keys.handle(pressed('Enter', { ctrl: true, within: 'textarea' }));
    keys.handle(pressed('z', { ctrl: true, within: 'textarea' }));
    keys.handle(pressed('Enter'));
    expect(save).toHaveBeenCalledOnce();
    expect(undo).not.toHaveBeenCalled();
    keys.handle(pressed('z', { ctrl: true }));
    expect(undo).toHaveBeenCalledOnce();
  });

  it('lists what it handles, each once, with what is the same everywhere at the end', () => {
    const keys = table(
      [{ on: '?', common: true, what: 'Show these keys' }],
      [
        { on: 'n', run: vi.fn() },
        { on: ['ArrowUp', 'Delete'], what: 'Move' },
        { on: 'Enter', ctrl: true, what: 'Save' },
        { on: 'k', what: 'Not now', when: () => false },
      ],
      [{ shown: 'n  p', what: 'Next' }],
      [{ shown: 'n  p', what: 'Next' }],
    );
    expect(keys.listed).toEqual([
      { key: 'n  p', what: 'Next' },
      { key: 'ArrowUp  Del', what: 'Move' },
      { key: 'Ctrl+Enter', what: 'Save' },
      { key: '?', what: 'Show these keys' },
    ]);
  });
});

describe('leading to a part', () => {
  it('goes there, and presses it where that is wanted', () => {
    const part = { focus: vi.fn(), click: vi.fn() };
    const place = { querySelector: (selector: string) => (selector === 'a' ? part : null) } as unknown as HTMLElement;
    lead(place, 'a');
    expect([part.focus.mock.calls.length, part.click.mock.calls.length]).toEqual([1, 0]);
    lead(place, 'a', true);
    expect(part.click).toHaveBeenCalledOnce();
    lead(place, 'b', true);
    lead(undefined, 'a', true);
    expect(part.click).toHaveBeenCalledOnce();
  });
});
