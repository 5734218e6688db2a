import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, readdirSync } from 'node:fs';
import { createServer } from 'node:net';
import { expect } from '@playwright/test';
import puppeteer, { type Browser, type KeyInput, type Page } from 'puppeteer-core';
import { Builder, Capabilities, Key, type WebDriver, type WebElement } from 'selenium-webdriver';

/** What is on a page is found by what it is and what it is called, as who uses it does. */
export interface What {
  role: 'button' | 'link' | 'textbox' | 'checkbox' | 'select' | 'row' | 'heading' | 'text' | 'list' | 'alert';
  name: string | RegExp;
  /** The last of several, and not the first. */
  isLast?: boolean;
}

type Found = { text: string; isFocused: boolean; isEnabled: boolean; value: string } | null;

/**
 * Runs in the page: the elements of a role that can be seen and whose name begins as asked. Only what Brenvic uses of naming
 * (aria-label, label, text) is here.
 */
const FIND = `function (role, pattern, isLast) {
  const selectors = {
    button: 'button, [role=button]', link: 'a[href]', checkbox: 'input[type=checkbox]', select: 'select', row: '[role=row]',
    textbox: 'input:not([type=checkbox]):not([type=radio]):not([type=file]), textarea', heading: 'h1, h2, h3',
    text: 'p, span, li, h1, h2, h3, [role=status], a', list: 'ul, ol', alert: '[role=alert]',
  };
  const plain = (text) => text.replace(/\\s+/g, ' ').trim();
  const named = (element) => plain(
    element.getAttribute('aria-label') || [...(element.labels || [])].map((l) => l.innerText).join(' ') || element.innerText || '');
  const test = new RegExp(pattern);
  const found = [...document.querySelectorAll(selectors[role])].filter((e) => e.checkVisibility() && test.test(named(e)));
  return (isLast ? found.at(-1) : found[0]) || null;
}`;
const LOOK = `function (role, pattern, isLast) {
  const element = (${FIND})(role, pattern, isLast);
  return element && {
    text: (element.innerText || '').replace(/\\s+/g, ' ').trim(),
    isFocused: element === document.activeElement,
    isEnabled: !element.disabled,
    value: element.value === undefined ? '' : String(element.value),
  };
}`;

const asked = ({ role, name, isLast }: What): [string, string, boolean] => [
  role,
  typeof name === 'string' ? `^${name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}$` : name.source,
  isLast ?? false,
];

/** A browser other than the one that all tests run in, worked by mouse and keyboard. */
export abstract class Hand {
  constructor(protected readonly base: string) {}

  abstract open(path: string): Promise<void>;
  abstract address(): Promise<string>;
  abstract type(text: string): Promise<void>;
  abstract press(key: 'Enter' | 'Escape' | 'ArrowDown' | 'Tab' | 'Space'): Promise<void>;
  abstract close(): Promise<void>;
  protected abstract evaluate<T>(script: string, args: unknown[]): Promise<T>;
  protected abstract clickOn(args: unknown[]): Promise<void>;

  look(what: What): Promise<Found> {
    return this.evaluate<Found>(LOOK, asked(what));
  }

  async see(what: What, timeout = 20_000): Promise<void> {
    await expect.poll(() => this.look(what), { timeout, message: `${what.role} ${what.name}` }).not.toBeNull();
  }

  /** Clicks once it is there and can be pressed. */
  async click(what: What): Promise<void> {
    await expect.poll(async () => (await this.look(what))?.isEnabled, { timeout: 20_000, message: `${what.role} ${what.name}` }).toBe(true);
    // What has just opened may still be finding its place.
    await expect(() => this.clickOn(asked(what))).toPass({ timeout: 5_000 });
  }

  async fill(what: What, text: string): Promise<void> {
    await this.click(what);
    await this.evaluate(`function () { document.activeElement.select?.(); }`, []);
    await this.type(text);
  }

  /** Chooses in a list that the system draws, which no mouse of a test reaches. */
  async choose(what: What, label: string): Promise<void> {
    await this.see(what);
    await this.evaluate(
      `function (role, pattern, isLast, label) {
        const select = (${FIND})(role, pattern, isLast);
        select.value = [...select.options].find((o) => o.text === label).value;
        select.dispatchEvent(new Event('change', { bubbles: true }));
      }`,
      [...asked(what), label],
    );
  }

  text(selector: string): Promise<string> {
    return this.evaluate<string>(`function (selector) { return document.querySelector(selector)?.textContent?.trim() ?? ''; }`, [selector]);
  }
}

const FIREFOX = ['/usr/bin/firefox-esr', '/usr/bin/firefox'].find((path) => existsSync(path));
const MINI = readdirSync('/usr/lib')
  .flatMap((machine) => ['4.1', '4.0'].map((version) => `/usr/lib/${machine}/webkit2gtk-${version}/MiniBrowser`))
  .find((path) => existsSync(path));

class Firefox extends Hand {
  private constructor(
    base: string,
    private readonly browser: Browser,
    private readonly page: Page,
  ) {
    super(base);
  }

  /** By WebDriver BiDi. */
  static async begin(base: string): Promise<Hand> {
    const browser = await puppeteer.launch({ browser: 'firefox', executablePath: FIREFOX!, headless: true });
    const page = await browser.newPage();
    await page.setViewport({ width: 1280, height: 800 });
    return new Firefox(base, browser, page);
  }

  async open(path: string): Promise<void> {
    await this.page.goto(new URL(path, this.base).href);
  }
  address = () => Promise.resolve(this.page.url());
  type = (text: string) => this.page.keyboard.type(text);
  press = (key: KeyInput) => this.page.keyboard.press(key);
  close = () => this.browser.close();

  protected evaluate<T>(script: string, args: unknown[]): Promise<T> {
    return this.page.evaluate(`(${script})(...${JSON.stringify(args)})`) as Promise<T>;
  }
  protected async clickOn(args: unknown[]): Promise<void> {
    const handle = (await this.page.evaluateHandle(`(${FIND})(...${JSON.stringify(args)})`)).asElement();
    await (handle as unknown as { click: () => Promise<void> }).click();
  }
}

const KEYS = { Enter: Key.ENTER, Escape: Key.ESCAPE, ArrowDown: Key.ARROW_DOWN, Tab: Key.TAB, Space: Key.SPACE };

class WebKit extends Hand {
  private constructor(
    base: string,
    private readonly driver: WebDriver,
    private readonly processes: ChildProcess[],
  ) {
    super(base);
  }

  /** By WebDriver, on a screen that nobody sees. */
  static async begin(base: string): Promise<Hand> {
    const port = await freePort();
    const display = `:${port % 50_000}`;
    const screen = spawn('Xvfb', [display, '-screen', '0', '1280x900x24', '-nolisten', 'tcp'], { stdio: 'ignore' });
    const env = { ...process.env, DISPLAY: display, LIBGL_ALWAYS_SOFTWARE: '1' };
    const server = spawn('WebKitWebDriver', [`--port=${port}`], { stdio: 'ignore', env });
    await expect(async () => {
      expect((await fetch(`http://127.0.0.1:${port}/status`)).ok).toBe(true);
    }).toPass();
    const driver = await new Builder()
      .usingServer(`http://127.0.0.1:${port}`)
      .withCapabilities(
        new Capabilities({ browserName: 'MiniBrowser', 'webkitgtk:browserOptions': { binary: MINI, args: ['--automation'] } }),
      )
      .build();
    await driver.manage().window().setRect({ width: 1280, height: 860 });
    return new WebKit(base, driver, [server, screen]);
  }

  open = (path: string) => this.driver.get(new URL(path, this.base).href);
  address = () => this.driver.getCurrentUrl();
  type = (text: string) => this.driver.actions().sendKeys(text).perform();
  press = (key: keyof typeof KEYS) => this.driver.actions().sendKeys(KEYS[key]).perform();
  async close(): Promise<void> {
    await this.driver.quit();
    for (const running of this.processes) running.kill();
  }

  protected evaluate<T>(script: string, args: unknown[]): Promise<T> {
    return this.driver.executeScript<T>(`return (${script})(...arguments)`, ...args);
  }
  protected async clickOn(args: unknown[]): Promise<void> {
    await (await this.driver.executeScript<WebElement>(`return (${FIND})(...arguments)`, ...args)).click();
  }
}

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });
}

/** The browsers that this machine has beside the one of all tests. */
export const others: [string, ((base: string) => Promise<Hand>) | null][] = [
  ['Firefox', FIREFOX ? Firefox.begin : null],
  ['WebKit', MINI && existsSync('/usr/bin/WebKitWebDriver') && existsSync('/usr/bin/Xvfb') ? WebKit.begin : null],
];
