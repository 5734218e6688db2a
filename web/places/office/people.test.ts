import { describe, expect, it } from 'vitest';
import { People, signInOf } from './people.svelte';

describe('sign-in names', () => {
  it('are made of a name, without what they may not have', () => {
    expect(signInOf('Ottoline Marsh')).toBe('o.marsh');
    expect(signInOf('Zoë de la Mér')).toBe('z.mer');
    expect(signInOf("O'Neil")).toBe('oneil');
    expect(signInOf('  ')).toBe('');
  });
});

describe('the person that is looked at', () => {
  const person = (id: number, more = {}) => ({
    id,
    name: `P${id}`,
    sign_in: `p${id}`,
    mail: null,
    role: 'reader',
    known_by: 'brenvic',
    has_factor: false,
    sessions: 0,
    groups: ['Everyone', 'Board'],
    out_of_use_at: null,
    last_sign_in_at: null,
    has_code: false,
    in_hand: null,
    ...more,
  });
  const made = () => {
    const people = new People();
    people.answer = {
      people: [person(1), person(2), person(3, { out_of_use_at: '2026-01-01' })],
      groups: ['Everyone', 'Board'],
      roles: [],
      rights: [],
      nested: [],
      rules: { idle_minutes: 60, hours: 8, stay_days: 0, second_factor: false },
      directory: false,
    };
    return people;
  };

  it('is changed only by what differs, whatever the order of groups', () => {
    const people = made();
    people.choose(1);
    expect(people.changed).toBe(false);
    people.draft.groups = ['Board', 'Everyone'];
    people.draft.name = ' P1 ';
    expect(people.changed).toBe(false);
    people.draft.role = 'clerk';
    expect(people.changed).toBe(true);
    people.choose(1);
    people.draft.mail = 'p1@office.example';
    expect(people.changed).toBe(true);
  });

  it('begins anew in the group of everyone', () => {
    const people = made();
    people.choose(0);
    expect(people.draft).toEqual({ name: '', sign_in: '', mail: null, role: 'reader', groups: ['Everyone'], known_by: 'brenvic' });
    expect(people.changed).toBe(true);
  });

  it('hands on only to others who are in use', () => {
    const people = made();
    expect(people.heirs(people.answer!.people[0]!).map((p) => p.id)).toEqual([2]);
  });
});
