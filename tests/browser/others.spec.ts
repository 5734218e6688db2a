import { expect, test } from '@playwright/test';
import { others, type Hand, type What } from './hands';

// The same stories in browsers of another make, by their own mouse and keyboard.
const button = (name: string | RegExp, isLast = false): What => ({ role: 'button', name, isLast });
const text = (name: string | RegExp): What => ({ role: 'text', name });

for (const [name, begin] of others) {
  test.describe(name, () => {
    test.describe.configure({ mode: 'serial' });
    let hand: Hand;
    test.beforeAll(async ({ baseURL }) => {
      test.skip(begin === null, `${name} is not on this machine.`);
      hand = await begin!(baseURL!);
      await hand.open('/');
      await hand.fill({ role: 'textbox', name: 'Sign-in name' }, 'librarian');
      await hand.fill({ role: 'textbox', name: 'Password' }, 'tarnwick');
      await hand.press('Enter');
      await hand.see({ role: 'heading', name: 'Libraries' });
    });
    test.afterAll(() => hand?.close());

    test('story 1: the permits of a vessel are found, narrowed and read', async () => {
      await hand.fill({ role: 'textbox', name: /^Query line/ }, '"marigold ash"');
      await hand.press('Enter');
      await hand.click(button(/^Mooring permit/));
      await hand.see(text(/^Document type is Mooring permit/));
      await expect.poll(async () => (await hand.look({ role: 'button', name: /^2023/ }))?.text).toMatch(/4$/);
      await hand.click(button(/^2023/));
      await expect.poll(() => hand.text('[data-testid=total]')).toBe('4');
      await hand.click({ role: 'row', name: /MP-2023-0007/ });
      await hand.see({ role: 'heading', name: 'Mooring permit MP-2023-0007: Marigold Ash' });
      await expect.poll(() => hand.text('[data-testid=hits]')).toContain('1 of 1');
      await hand.click(button('Index sheet'));
      await hand.see(text('Berth'));
      // By keyboard: the row, the reader, and back to where one was.
      await hand.click({ role: 'row', name: /MP-2023-0007/ });
      await hand.press('Enter');
      await expect.poll(() => hand.address()).toMatch(/\/documents\/D-/);
      await hand.see({ role: 'link', name: 'Download' });
      await hand.press('Escape');
      await expect.poll(() => hand.text('[data-testid=total]')).toBe('4');
      await expect.poll(() => hand.address()).toMatch(/\/find/);
    });

    test('story 2: inspections are gathered, held, redacted and delivered', async () => {
      const list = `For ${name}`;
      // Each redacts a document of its own.
      const year = name === 'Firefox' ? 2019 : 2021;
      await hand.open(`/find?c=type+%3D%3D+lock_inspection&c=document_date+%3D+${year}&q=wing+wall`);
      await expect.poll(() => hand.text('[data-testid=total]')).toMatch(/^[1-9]\d*$/);
      await hand.click(button(/^With all/));
      await hand.fill({ role: 'textbox', name: 'Name of a new list' }, list);
      await hand.click(button('Create list'));
      // How many they are grows while the demo is still being read.
      await hand.click(button(/^Add all [1-9]\d* found$/));
      await hand.click({ role: 'link', name: new RegExp(`^${list}.*[1-9]\\d*$`) });
      await hand.see({ role: 'heading', name: list });
      const address = await hand.address();

      await hand.click(button('Put on hold'));
      await hand.fill({ role: 'textbox', name: 'Reason' }, 'Claim of the insurer');
      await hand.click(button('Put on hold', true));
      await hand.see(text(/Claim of the insurer/));

      await hand.click({ role: 'link', name: /^Lock inspection/ });
      await hand.click(button('Redact'));
      await hand.choose({ role: 'select', name: 'Reason' }, 'Personal data');
      await hand.click({ role: 'checkbox', name: /^people named in the index sheet/ });
      await hand.click(button('List them'));
      await hand.click(button(/^Remove [1-9]\d* places?$/));
      await hand.see(text(/^The redacted copy is ready\./), 60_000);

      await hand.open(new URL(address).pathname);
      await hand.click(button('Deliver'));
      await hand.choose({ role: 'select', name: 'Form of the files' }, 'redacted');
      await hand.click(button('Create delivery'));
      await hand.see({ role: 'link', name: 'Download' }, 90_000);
      await hand.click(button('End the hold'));
      await hand.see(text('The hold is ended.'));
      await hand.click(button('Remove the list'));
      await hand.see(text(/ is removed\./));
    });
  });
}
