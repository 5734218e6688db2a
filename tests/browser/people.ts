import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';

export const people = ['librarian', 'clerk', 'reader'] as const;

/** Where the session of a person is kept between tests. */
export const session = (who: (typeof people)[number]) => `test-results/sessions/${who}.json`;

export async function total(page: Page, count: number): Promise<void> {
  await expect(page.getByTestId('total')).toHaveText(String(count));
}

/** No fault that the checker knows against WCAG 2.2 A and AA. */
export async function accessible(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']).analyze();
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).slice(0, 3).join(', ')}`)).toEqual([]);
}
