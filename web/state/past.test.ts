import { beforeEach, describe, expect, it, vi } from 'vitest';

let past: typeof import('./past.svelte').past;
let nameOf: typeof import('./past.svelte').nameOf;
const search = (question: string) => ({ question, address: `/find?q=${question}`, name: question });
const near = () => [past.before?.name, past.after?.name];

beforeEach(async () => {
  vi.resetModules();
  ({ past, nameOf } = await import('./past.svelte'));
});

describe('the searches of a window', () => {
  it('are gone through back and forward', () => {
    for (const q of ['a', 'b', 'c']) past.note(search(q));
    expect(near()).toEqual(['b', undefined]);
    past.note(search('b'));
    expect(near()).toEqual(['a', 'c']);
    past.note(search('c'));
    expect(near()).toEqual(['b', undefined]);
  });

  it('begin anew from where one went back to', () => {
    for (const q of ['a', 'b', 'c']) past.note(search(q));
    past.note(search('b'));
    past.note(search('d'));
    expect(near()).toEqual(['b', undefined]);
  });

  it('are each once as long as they are asked, with the address as it is now', () => {
    past.note(search('a'));
    past.note(search('b'));
    past.note({ ...search('b'), address: '/find?q=b&as=digest' });
    past.note(search('c'));
    expect(past.before?.address).toBe('/find?q=b&as=digest');
  });

  it('are the latest fifty', () => {
    for (let i = 0; i < 60; i++) past.note(search(`q${i}`));
    let back = 0;
    while (past.before) {
      past.note(past.before);
      back++;
    }
    expect(back).toBe(49);
  });
});

describe('the name of a search', () => {
  const line = (more: object) => ({
    on: true,
    negated: false,
    how: null,
    field: 'type',
    subject: 'Type',
    relation: 'is',
    value: 'Plan',
    ...more,
  });
  it('has its lines in words, without those that are off', () => {
    const lines = [line({ field: null, value: 'gate' }), line({}), line({ on: false, value: 'x' }), line({ how: 'any' })];
    expect(nameOf(lines as never)).toBe('gate; Type is Plan; a group');
    expect(nameOf([line({ field: null, negated: true, subject: 'Document', relation: 'does not contain', value: 'gate' })] as never)).toBe(
      'Document does not contain gate',
    );
    expect(nameOf([])).toBe('Everything');
  });
});
