import type { Pdf } from './pdf';

interface Drawn {
  pdf: Pdf | null | undefined;
  page: number;
  /** In CSS pixels. */
  width: number;
}

/** Draws a page in small once it comes near to where it is seen. */
export function thumb(canvas: HTMLCanvasElement, { pdf, page, width }: Drawn) {
  const watch = new IntersectionObserver(
    ([entry]) => {
      if (!entry?.isIntersecting || !pdf) return;
      watch.disconnect();
      void import('./pdf').then(({ draw }) => draw(pdf, page, canvas, null, width));
    },
    { rootMargin: '200px' },
  );
  watch.observe(canvas);
  return { destroy: () => watch.disconnect() };
}
