import type { FacetOrder, Search } from '@/api/types';

interface Ask {
  order: FacetOrder;
  most?: number;
  search?: string;
  /** Of a large tree: the values that were opened. */
  opened?: string[];
}

const KEPT = 'brenvic.facets';

/** In which order a person wants each facet, kept on this machine; and how much of it is asked for just now. */
export class FacetAsks {
  private asks = $state<Record<string, Ask>>(FacetAsks.kept());

  private static kept(): Record<string, Ask> {
    try {
      return Object.fromEntries(
        Object.entries(JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Record<string, FacetOrder>).map(([field, order]) => [
          field,
          { order },
        ]),
      );
    } catch {
      return {};
    }
  }

  get list(): NonNullable<Search['facets']> {
    return Object.entries(this.asks).map(([field, ask]) => ({ field, ...ask }));
  }

  of(field: string): Ask {
    return this.asks[field] ?? { order: 'count' };
  }

  change(field: string, change: Partial<Ask>) {
    this.asks = { ...this.asks, [field]: { ...this.of(field), ...change } };
    localStorage.setItem(KEPT, JSON.stringify(Object.fromEntries(Object.entries(this.asks).map(([f, ask]) => [f, ask.order]))));
  }
}

/** How far a person has opened a facet: all of its values, and what is below some of them. */
export class FacetShape {
  whole = $state(false);
  opened = $state<Record<string, boolean>>({});
}
