import type { DeliveryForm } from '@/api/types';

/** The forms in which a file leaves, in words. */
export const DELIVERY_FORMS: [DeliveryForm, string][] = [
  ['plain', 'as it is'],
  ['annotated', 'with annotations'],
  ['redacted', 'redacted'],
  ['both', 'redacted, with annotations'],
];

/** Those that there are: where nothing was redacted no redacted copy is offered. */
export function formsFor(isRedacted: boolean): [DeliveryForm, string][] {
  return DELIVERY_FORMS.filter(([form]) => isRedacted || (form !== 'redacted' && form !== 'both'));
}
