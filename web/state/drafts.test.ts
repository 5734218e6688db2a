import { describe, expect, it, vi } from 'vitest';

function store() {
  const map = new Map<string, string>();
  return {
    map,
    getItem: (k: string) => map.get(k) ?? null,
    setItem: (k: string, v: string) => void map.set(k, v),
    removeItem: (k: string) => void map.delete(k),
    key: (i: number) => [...map.keys()][i] ?? null,
    get length() {
      return map.size;
    },
  };
}
vi.stubGlobal('localStorage', store());
vi.mock('./app.svelte', () => ({ app: { person: { sign_in: 'clerk' } } }));
const { Drafts, drafts, keptWhile } = await import('./drafts');

/** A box that is typed into, without a page around it. */
function box(value = '') {
  const target = new EventTarget() as EventTarget & { value: string };
  target.value = value;
  return target as unknown as HTMLTextAreaElement;
}
const type = (b: HTMLTextAreaElement, text: string) => {
  b.value = text;
  b.dispatchEvent(new Event('input'));
};
const settled = () => new Promise((r) => setTimeout(r));

describe('drafts', () => {
  it('are each person’s own', () => {
    const kept = store();
    let who = 'clerk';
    const all = new Drafts(() => who, kept);
    all.setItem('sheet:D-1', 'mine');
    all.setItem('sheet:D-2', 'mine too');
    all.setItem('intake', 'x');
    who = 'reader';
    expect(all.getItem('sheet:D-1')).toBeNull();
    expect(all.names('sheet:')).toEqual([]);
    who = 'clerk';
    expect(all.names('sheet:')).toEqual(['sheet:D-1', 'sheet:D-2']);
    all.removeItem('sheet:D-1');
    expect(all.names('sheet:')).toEqual(['sheet:D-2']);
  });
});

describe('what is typed into a box', () => {
  it('is saved when the box is left, and forgotten then', async () => {
    const saved: string[] = [];
    const b = box('old');
    const leave = keptWhile('note:1', 'old', async (text) => (saved.push(text), true))(b);
    type(b, 'new words');
    expect(drafts.getItem('note:1')).toBe('new words');
    b.dispatchEvent(new Event('change'));
    await settled();
    expect(saved).toEqual(['new words']);
    expect(drafts.getItem('note:1')).toBeNull();
    leave();
    await settled();
    expect(saved).toHaveLength(1);
  });

  it('is saved when the box goes away while it is typed into', async () => {
    const saved: string[] = [];
    const b = box('');
    const leave = keptWhile('note:2', '', async (text) => (saved.push(text), true))(b);
    type(b, 'half a sen');
    leave();
    await settled();
    expect(saved).toEqual(['half a sen']);
  });

  it('comes back after a reload, and stays when it cannot be saved', async () => {
    drafts.setItem('note:3', 'typed before');
    const b = box('old');
    let works = false;
    keptWhile('note:3', 'old', async () => works)(b);
    expect(b.value).toBe('typed before');
    await settled();
    expect(drafts.getItem('note:3')).toBe('typed before');
    works = true;
    b.dispatchEvent(new Event('change'));
    await settled();
    expect(drafts.getItem('note:3')).toBeNull();
  });

  it('typed back to what it was is no draft', async () => {
    const save = vi.fn(async () => true);
    const b = box('old');
    keptWhile('note:4', 'old', save)(b);
    type(b, 'olds');
    type(b, 'old');
    b.dispatchEvent(new Event('change'));
    await settled();
    expect(save).not.toHaveBeenCalled();
    expect(drafts.getItem('note:4')).toBeNull();
  });
});
