import { api } from '@/api/client';
import type { DocumentRecord } from '@/api/types';

/** Only office files have pages that were drawn of them. */
type Shown = Pick<DocumentRecord, 'ref' | 'file_kind' | 'file_name'> & { drawn_pages?: number };

const SHOWABLE = /\.(png|jpe?g|gif|webp)$/i;

/** Whether a document is seen as pages: PDFs, pictures, and office files whose pages were drawn. */
export const hasPages = (document: Pick<Shown, 'file_kind' | 'drawn_pages'>): boolean =>
  document.file_kind === 'pdf' || document.file_kind === 'image' || (document.drawn_pages ?? 0) > 0;

/** Whether a page is one of those that are drawn: what an office file has beside its pages, comments say, is text. */
export const isDrawnPage = (document: Pick<Shown, 'drawn_pages'>, number: number): boolean => number <= (document.drawn_pages || number);

/** Whether a document is a picture that browsers show; others (TIFF) are shown as a PDF of their pages. */
export const isPicture = (document: Shown): boolean => document.file_kind === 'image' && SHOWABLE.test(document.file_name);

/** Where the PDF is that its pages are drawn from. */
export function pagesUrl(document: Shown, version: number): string {
  return api.fileUrl(document.ref, version) + (document.file_kind === 'pdf' ? '' : '&drawn=1');
}
