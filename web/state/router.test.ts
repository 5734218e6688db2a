import { beforeEach, describe, expect, it, vi } from 'vitest';

/** A window as far as addresses go. */
const heard: Record<string, (event: unknown) => void> = {};
const visited: string[] = [];
function open(url: string): void {
  const { pathname, search, origin } = new URL(url, 'http://office.example');
  vi.stubGlobal('location', { pathname, search, origin });
}
vi.stubGlobal('addEventListener', (name: string, hear: (event: unknown) => void) => (heard[name] = hear));
vi.stubGlobal('history', {
  pushState: (_: unknown, __: string, url: string) => (visited.push(url), open(url)),
  replaceState: (_: unknown, __: string, url: string) => (visited.splice(-1, 1, url), open(url)),
});
open('/desk');
const { router } = await import('./router.svelte');

/** A click on a link, or within one. */
function clicked(href: string | null, more: Record<string, unknown> = {}, link: Record<string, unknown> = {}) {
  const preventDefault = vi.fn();
  const url = new URL(href ?? '/', 'http://office.example');
  const found = href === null ? null : { ...link, origin: url.origin, pathname: url.pathname, search: url.search };
  const a = found && { target: '', hasAttribute: (name: string) => name === link['attribute'], ...found };
  heard['click']!({ button: 0, defaultPrevented: false, target: { closest: () => a }, preventDefault, ...more });
  return preventDefault;
}

beforeEach(() => {
  open('/desk');
  heard['popstate']!({});
  visited.length = 0;
});

describe('the address', () => {
  it('is followed by links within the application, without loading it anew', () => {
    expect(clicked('/find?q=gate')).toHaveBeenCalledOnce();
    expect([router.path, router.params.get('q')]).toEqual(['/find', 'gate']);
    expect(visited).toEqual(['/find?q=gate']);
  });

  it.each([
    ['with a key held', '/find', { ctrlKey: true }, {}],
    ['with another button', '/find', { button: 1 }, {}],
    ['that something else took', '/find', { defaultPrevented: true }, {}],
    ['to another window', '/find', {}, { target: '_blank' }],
    ['to a download', '/find', {}, { attribute: 'download' }],
    ['to another house', 'http://elsewhere.example/find', {}, {}],
    ['to what the server gives itself', '/api/documents/1/file', {}, {}],
    ['on no link', null, {}, {}],
  ])('leaves alone a click %s', (_, href, event, link) => {
    expect(clicked(href, event, link)).not.toHaveBeenCalled();
    expect([router.path, visited]).toEqual(['/desk', []]);
  });

  it('is not visited twice in a row, and can be replaced', () => {
    router.go('/find?q=a');
    router.go('/find?q=a');
    router.go('/find?q=b', 'replace');
    expect(visited).toEqual(['/find?q=b']);
    expect(router.params.get('q')).toBe('b');
  });

  it('goes back and forth as the window does', () => {
    router.go('/find?q=a');
    open('/desk');
    heard['popstate']!({});
    expect([router.path, [...router.params]]).toEqual(['/desk', []]);
  });

  it('has parts, also where it is broken', () => {
    router.go('/design/fields/silt%20depth/');
    expect(router.parts).toEqual(['design', 'fields', 'silt depth']);
    router.go('/design/fields/%E0%A4');
    expect(router.parts).toEqual(['design', 'fields', '%E0%A4']);
  });
});
