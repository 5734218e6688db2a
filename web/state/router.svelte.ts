/** What was written in percent signs; as it stands when it is no UTF-8, so that a broken address leads to no blank page. */
function decoded(part: string): string {
  try {
    return decodeURIComponent(part);
  } catch {
    return part;
  }
}

/** The address: which place is shown, and with what. */
class Router {
  path = $state(location.pathname);
  params = $state.raw(new URLSearchParams(location.search));

  constructor() {
    addEventListener('popstate', () => this.#read());
    // Links inside the application do not reload it.
    addEventListener('click', (event) => {
      if (event.defaultPrevented || event.button !== 0 || event.metaKey || event.ctrlKey || event.shiftKey || event.altKey) return;
      const link = (event.target as Element | null)?.closest?.('a');
      if (!link || link.target || link.hasAttribute('download') || link.origin !== location.origin || link.pathname.startsWith('/api/'))
        return;
      event.preventDefault();
      this.go(link.pathname + link.search);
    });
  }

  go(url: string, how: 'push' | 'replace' = 'push'): void {
    if (url === location.pathname + location.search) return;
    history[how === 'push' ? 'pushState' : 'replaceState'](null, '', url);
    this.#read();
  }

  /** The parts of the path: `/design/fields/vessel` is `['design', 'fields', 'vessel']`. */
  get parts(): string[] {
    return this.path.split('/').filter(Boolean).map(decoded);
  }

  #read(): void {
    this.path = location.pathname;
    this.params = new URLSearchParams(location.search);
  }
}

export const router = new Router();
