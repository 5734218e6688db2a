import AxeBuilder from '@axe-core/playwright';
import { expect, type Locator, type Page } from '@playwright/test';

export const people = ['librarian', 'clerk', 'reader', 'manager', 'admin', 'works'] as const;

/** Where the session of a person is kept between tests. */
export const session = (who: (typeof people)[number]) => `test-results/sessions/${who}.json`;

export async function total(page: Page, count: number): Promise<void> {
  await expect(page.getByTestId('total')).toHaveText(String(count));
}

/**
 * No fault that the checker knows against WCAG 2.2 A and AA.
 *
 * @param within a selector, for a part that has opened in a place that was checked before
 */
export async function accessible(page: Page, within?: string): Promise<void> {
  const builder = new AxeBuilder({ page });
  const { violations } = await (within ? builder.include(within) : builder)
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    .analyze();
  expect(
    violations.map(
      (v) =>
        `${v.id}: ${v.nodes
          .map((n) => n.target.join(' '))
          .slice(0, 3)
          .join(', ')}`,
    ),
  ).toEqual([]);
}

/** Comes to something by the Tab key, as who has no mouse does. */
export async function reach(target: Locator, backwards = false): Promise<void> {
  const page = target.page();
  await expect(target).toBeVisible();
  for (let pressed = 0; pressed < 150; pressed++) {
    if (await target.evaluate((element) => element === document.activeElement)) return;
    await page.keyboard.press(backwards ? 'Shift+Tab' : 'Tab');
  }
  throw new Error(`${target} is not reached by Tab.`);
}

/** Comes to a button or link by the Tab key, and presses it. */
export async function press(target: Locator, backwards = false): Promise<void> {
  await reach(target, backwards);
  await target.page().keyboard.press('Enter');
}
