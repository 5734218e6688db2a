import type { QualityFinding } from '@/api/types';
import { runs } from '@/parts/runs';

/** Findings under their groups, in the order they came. */
export function grouped(findings: readonly QualityFinding[]): { name: string; findings: QualityFinding[] }[] {
  return runs(findings, (finding) => finding.group).map(({ key, of }) => ({ name: key, findings: of }));
}

/** In per cent of all. */
export const share = (finding: QualityFinding, all: number): number => (all === 0 ? 0 : (100 * finding.documents) / all);
