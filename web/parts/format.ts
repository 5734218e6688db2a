import { written as form } from '@/state/written.svelte';

/** Numbers, dates and sizes as the interface writes them. */

const THIN = '\u202f';

export function count(n: number): string {
  return String(n).replace(/\B(?=(\d{3})+$)/g, form.numbers === 'commas_and_point' ? ',' : THIN);
}

export function bytes(n: number): string {
  if (n < 1000) return `${n} bytes`;
  if (n < 1_000_000) return `${Math.round(n / 1000)} kB`;
  const [size, unit] = n < 1_000_000_000 ? [n / 1_000_000, 'MB'] : [n / 1_000_000_000, 'GB'];
  const shown = size.toFixed(1);
  return `${form.numbers === 'comma' ? shown.replace('.', ',') : shown} ${unit}`;
}

function written(at: Date): string {
  const two = (n: number) => String(n).padStart(2, '0');
  const [year, month, day] = [at.getFullYear(), two(at.getMonth() + 1), two(at.getDate())];
  switch (form.dates) {
    case 'slashes':
      return `${day}/${month}/${year}`;
    case 'dots':
      return `${day}.${month}.${year}`;
    case 'iso':
      return `${year}-${month}-${day}`;
    default:
      return at.toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
  }
}

/** “14 Mar 2024”, and “today 09:14” on the day itself. */
export function moment(iso: string | null): string {
  if (!iso) return '';
  const at = new Date(iso.includes('T') ? iso : `${iso.replace(' ', 'T')}Z`);
  const day = written(at);
  const isToday = day === written(new Date());
  return isToday ? `today ${at.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })}` : day;
}

/** “14 Mar 2024” of a day without a time, and “today” on the day itself. */
export function day(iso: string): string {
  const at = new Date(`${iso}T12:00:00`);
  const shown = written(at);
  return shown === written(new Date()) ? 'today' : shown;
}

export function plural(n: number, one: string, many: string): string {
  return `${count(n)} ${n === 1 ? one : many}`;
}
