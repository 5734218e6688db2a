import { api } from '@/api/client';
import { app } from '@/state/app.svelte';
import { plural } from './format';

/** Undoes an act on several documents that the server keeps, and says what was left alone. */
export async function undoAct(act: number, then: () => void): Promise<void> {
  try {
    const { left } = await api.undoDocumentAct(act);
    then();
    if (left > 0) app.say(`${plural(left, 'document was', 'documents were')} left alone. Last acts (u) names them.`, { wrong: true });
  } catch (error) {
    app.fail(error, 'It could not be undone.');
  }
}
