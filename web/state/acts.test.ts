import { beforeEach, describe, expect, it, vi } from 'vitest';

const api = vi.hoisted(() => ({ lastActs: vi.fn(), undoDocumentAct: vi.fn(), undoValues: vi.fn(), goOnValues: vi.fn() }));
vi.mock('@/api/client', () => ({
  api,
  messageOf: (error: unknown, otherwise: string) => (error instanceof Error && error.message ? error.message : otherwise),
}));
const { lastActs } = await import('./acts.svelte');

beforeEach(() => {
  vi.clearAllMocks();
  lastActs.own = [];
  api.lastActs.mockResolvedValue({ acts: [{ id: 1 }] });
});

describe('acts of this window', () => {
  it('are undone once, by whatever calls it', async () => {
    const undo = vi.fn();
    const again = lastActs.add('Pinned', undo);
    again();
    again();
    await vi.waitFor(() => expect(undo).toHaveBeenCalled());
    await lastActs.undoOwn(lastActs.own[0]!.key);
    expect(undo).toHaveBeenCalledOnce();
    expect(lastActs.own[0]).toMatchObject({ text: 'Pinned', undone: true });
  });

  it('can be tried again when they could not be undone', async () => {
    const undo = vi.fn().mockRejectedValueOnce(new Error('It is gone.')).mockResolvedValueOnce(undefined);
    lastActs.add('Pinned', undo);
    const { key } = lastActs.own[0]!;
    await lastActs.undoOwn(key);
    expect(lastActs.fault).toBe('It is gone.');
    expect(lastActs.own[0]!.undone).toBe(false);
    await lastActs.undoOwn(key);
    expect(lastActs.fault).toBe('');
    expect(lastActs.own[0]!.undone).toBe(true);
  });

  it('are as many as can be looked through, the newest first', () => {
    for (let i = 0; i < 25; i++) lastActs.add(`Act ${i}`, () => undefined);
    expect(lastActs.own).toHaveLength(20);
    expect(lastActs.own[0]!.text).toBe('Act 24');
  });
});

describe('acts that the server keeps', () => {
  it('are loaded before they are shown, and the fault is said when that fails', async () => {
    lastActs.open = false;
    api.lastActs.mockRejectedValueOnce(new Error(''));
    await lastActs.show();
    expect([lastActs.open, lastActs.fault]).toEqual([true, 'The last acts could not be loaded.']);
    await lastActs.show();
    expect(lastActs.kept).toEqual([{ id: 1 }]);
    expect(lastActs.fault).toBe('');
  });

  it('are undone where they belong, and lists that show it are told', async () => {
    const before = lastActs.undone;
    await lastActs.undo({ id: 7, of: 'documents' } as never);
    await lastActs.undo({ id: 8, of: 'values' } as never);
    expect(api.undoDocumentAct).toHaveBeenCalledWith(7);
    expect(api.undoValues).toHaveBeenCalledWith(8);
    expect(lastActs.undone).toBe(before + 2);
    api.undoValues.mockRejectedValueOnce(new Error('no'));
    await lastActs.undo({ id: 9, of: 'values' } as never);
    expect([lastActs.undone, lastActs.fault, lastActs.busy]).toEqual([before + 2, 'no', false]);
    await lastActs.goOn({ id: 8 } as never);
    expect(api.goOnValues).toHaveBeenCalledWith(8);
  });
});
