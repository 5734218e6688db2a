import type { Field, SystemField } from '@/api/types';
import type { Choices } from '@/state/choices.svelte';
import type { Component, Snippet } from 'svelte';

/** What the part of a kind is handed: a value that is given, asked for in a search, or shown. */
export interface KindProps {
  field: Field | SystemField;
  use: 'give' | 'ask' | 'show';
  value: string;
  id?: string;
  label?: string;
  hint?: string;
  /** What stands for no value, where one is chosen. */
  none?: string;
  choices?: Choices;
  invalid?: boolean;
  describedby?: string;
  onchange?: (value: string) => void;
  /** The value in words, when it is shown. */
  children?: Snippet;
}

/** Each file here is the part of one or several kinds, which name it as their widget. */
const parts = import.meta.glob<{ default: Component<KindProps> }>('./*.svelte', { eager: true });

export function widget(name = 'text'): Component<KindProps> {
  return (parts[`./${name}.svelte`] ?? parts['./text.svelte']!).default;
}
