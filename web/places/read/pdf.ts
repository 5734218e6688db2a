import * as pdfjs from 'pdfjs-dist';
import worker from 'pdfjs-dist/build/pdf.worker.min.mjs?url';

pdfjs.GlobalWorkerOptions.workerSrc = worker;

export type Pdf = pdfjs.PDFDocumentProxy;

/** @param isWhole whether it is fetched at once, and not by and by: what waits may get its words meanwhile, and be another file */
export function openPdf(url: string, isWhole = false): { pdf: Promise<Pdf>; close: () => void } {
  const task = pdfjs.getDocument({
    url,
    isEvalSupported: false,
    disableAutoFetch: !isWhole,
    disableRange: isWhole,
    disableStream: isWhole,
    // The machine's own fonts stand in badly for the standard ones: their letters have other widths.
    useSystemFonts: false,
    standardFontDataUrl: '/build/pdf/standard_fonts/',
    cMapUrl: '/build/pdf/cmaps/',
    wasmUrl: '/build/pdf/wasm/',
  });
  return { pdf: task.promise, close: () => void task.destroy() };
}

/** Draws a page at a width in CSS pixels and lays its selectable text over it, if there is a layer for it. */
export async function draw(pdf: Pdf, number: number, canvas: HTMLCanvasElement, layer: HTMLElement | null, width: number): Promise<void> {
  const page = await pdf.getPage(number);
  const natural = page.getViewport({ scale: 1 });
  const scale = width / natural.width;
  const sharp = Math.min(2, devicePixelRatio || 1);
  const viewport = page.getViewport({ scale: scale * sharp });
  canvas.width = Math.floor(viewport.width);
  canvas.height = Math.floor(viewport.height);
  await page.render({ canvas, viewport }).promise;
  if (!layer) return;
  layer.replaceChildren();
  layer.style.setProperty('--total-scale-factor', String(scale));
  layer.style.setProperty('--scale-factor', String(scale));
  await new pdfjs.TextLayer({
    textContentSource: page.streamTextContent(),
    container: layer,
    viewport: page.getViewport({ scale }),
  }).render();
}
