/** How long something took, in words: hours up to two days, then days. */
export function took(hours: number): string {
  if (hours < 1) return 'under an hour';
  return hours < 48 ? `${Math.round(hours)} h` : `${Math.round(hours / 24)} days`;
}
