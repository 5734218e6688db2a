import type { Pdf } from './pdf';

interface Drawn {
  pdf: Pdf | null | undefined;
  page: number;
  /** In CSS pixels. */
  width: number;
}

/** Draws a page in small once it comes near to where it is seen, and its PDF is there. */
export function thumb(canvas: HTMLCanvasElement, given: Drawn) {
  let now = given;
  let isNear = false;
  let isDrawn = false;
  const show = () => {
    const { pdf, page, width } = now;
    if (!isNear || isDrawn || !pdf) return;
    isDrawn = true;
    void import('./pdf').then(({ draw }) => draw(pdf, page, canvas, null, width));
  };
  const watch = new IntersectionObserver(
    ([entry]) => {
      if (!entry?.isIntersecting) return;
      watch.disconnect();
      isNear = true;
      show();
    },
    { rootMargin: '200px' },
  );
  watch.observe(canvas);
  return {
    update(next: Drawn) {
      isDrawn &&= next.pdf === now.pdf && next.page === now.page;
      now = next;
      show();
    },
    destroy: () => watch.disconnect(),
  };
}
