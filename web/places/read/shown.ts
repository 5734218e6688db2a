import { api } from '@/api/client';
import type { DocumentRecord } from '@/api/types';

type Shown = Pick<DocumentRecord, 'ref' | 'file_kind' | 'file_name'>;

const SHOWABLE = /\.(png|jpe?g|gif|webp)$/i;

/** Whether a document is a picture that browsers show; others (TIFF) are shown as a PDF of their pages. */
export const isPicture = (document: Shown): boolean => document.file_kind === 'image' && SHOWABLE.test(document.file_name);

/** Where the PDF is that its pages are drawn from. */
export function pagesUrl(document: Shown, version: number): string {
  return api.fileUrl(document.ref, version) + (document.file_kind === 'image' ? '&drawn=1' : '');
}
