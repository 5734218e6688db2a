/** Numbers, dates and sizes as the interface writes them. */

const THIN = '\u202f';

export function count(n: number): string {
  return String(n).replace(/\B(?=(\d{3})+$)/g, THIN);
}

export function bytes(n: number): string {
  if (n < 1000) return `${n} bytes`;
  if (n < 1_000_000) return `${Math.round(n / 1000)} kB`;
  return `${(n / 1_000_000).toFixed(1)} MB`;
}

/** “14 Mar 2024”, and “today 09:14” on the day itself. */
export function moment(iso: string | null): string {
  if (!iso) return '';
  const at = new Date(iso.includes('T') ? iso : `${iso.replace(' ', 'T')}Z`);
  const day = at.toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
  const isToday = day === new Date().toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
  return isToday ? `today ${at.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}` : day;
}

export function plural(n: number, one: string, many: string): string {
  return `${count(n)} ${n === 1 ? one : many}`;
}
