/** Addresses that this person wrote to lately from this machine, the latest first. */
const KEY = 'brenvic.recipients';
const MOST = 12;

export function recipients(of: string): string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(`${KEY}.${of}`) ?? '[]');
    return Array.isArray(kept) ? kept.filter((k): k is string => typeof k === 'string') : [];
  } catch {
    return [];
  }
}

export function keepRecipients(of: string, to: string): void {
  const given = to
    .split(',')
    .map((address) => address.trim())
    .filter((address) => address !== '');
  const kept = [...given, ...recipients(of).filter((address) => !given.includes(address))].slice(0, MOST);
  localStorage.setItem(`${KEY}.${of}`, JSON.stringify(kept));
}
