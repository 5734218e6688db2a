import type { CriterionInput, View } from '@/api/types';
import { app } from '@/state/app.svelte';

const USUAL = ['type', 'library', 'document_date', 'file_type'];

/** The columns that are shown: as the person left them for this view, as the view has them, or the usual ones. */
export function columnsOf(own: { code: string }[] | undefined, view: Pick<View, 'columns'> | null): string[] {
  return (
    own?.map((c) => c.code).filter((code) => app.field(code) || code === 'path') ?? view?.columns ?? USUAL.filter((code) => app.field(code))
  );
}

/** What was found is filtered by these words; one that is being typed is found by its beginning. */
export function withinCriterion(text: string): CriterionInput[] {
  const words = text.trim().replace(/["\\]/g, '');
  return words.length > 1 ? [{ cql: `cql.anywhere all "${words}*"`, negated: false, on: true, origin: 'within' }] : [];
}
