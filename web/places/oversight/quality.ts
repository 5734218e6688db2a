import type { QualityFinding } from '@/api/types';

/** Findings under their groups, in the order they came. */
export function grouped(findings: readonly QualityFinding[]): { name: string; findings: QualityFinding[] }[] {
  const groups: { name: string; findings: QualityFinding[] }[] = [];
  for (const finding of findings) {
    const last = groups.at(-1);
    if (last?.name === finding.group) last.findings.push(finding);
    else groups.push({ name: finding.group, findings: [finding] });
  }
  return groups;
}

/** In per cent of all. */
export const share = (finding: QualityFinding, all: number): number => (all === 0 ? 0 : (100 * finding.documents) / all);
