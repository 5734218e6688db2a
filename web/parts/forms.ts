import type { DeliveryForm } from '@/api/types';

/** The forms in which a file leaves, in words. */
export const DELIVERY_FORMS: [DeliveryForm, string][] = [
  ['plain', 'as it is'],
  ['annotated', 'with annotations'],
  ['redacted', 'redacted'],
  ['both', 'redacted, with annotations'],
];
