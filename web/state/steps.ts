import type { View } from '@/api/types';
import type { Step } from './search';

/** Which level of a view comes next, and the value of it that is opened. */
export function nextLevel(steps: Step[]): { level: number; below: string | null } {
  const last = steps.at(-1);
  if (!last) return { level: 0, below: null };
  return last.below ? { level: last.level, below: last.below } : { level: last.level + 1, below: null };
}

/** Whether the steps have come to where nothing divides further. */
export function atLeaf(view: View, steps: Step[]): boolean {
  return nextLevel(steps).level >= view.levels.length;
}
