<script lang="ts">
  import { count, plural } from '@/parts/format';
  import { nameOf } from '@/parts/terms';
  import IconChevronRight from '@lucide/svelte/icons/chevron-right';
  import type { SchemeTree } from './scheme.svelte';

  interface Props {
    tree: SchemeTree;
    /** How many documents have a concept itself, and with all below it. */
    of: (code: string) => { own: number; all: number };
  }
  let { tree, of }: Props = $props();
</script>

<ul role="tree" aria-label="Concepts" class="tree">
  {#each tree.rows as row (row.key)}
    {@const { term, depth, parents, under, key } = row}
    {@const isAt = tree.row?.key === key}
    <li
      role="treeitem"
      id={`concept-${key}`}
      aria-level={depth + 1}
      aria-expanded={parents ? !!tree.open[term.code] : undefined}
      aria-selected={isAt}
      aria-label={`${nameOf(term) || 'New concept'}, ${plural(of(term.code).all, 'document', 'documents')}`}
      tabindex={isAt ? 0 : -1}
      class:at={isAt}
      class:elsewhere={tree.at === term.code && !isAt}
      class:into={tree.over?.key === key && tree.over.how === 'into'}
      class:after={tree.over?.key === key && tree.over.how === 'after'}
      style={`padding-left:${depth * 18}px`}
      draggable="true"
      ondragstart={(e) => {
        tree.dragged = { code: term.code, from: under };
        e.dataTransfer?.setData('text/plain', term.code);
      }}
      ondragover={(e) => {
        if (!tree.mayTake(term)) return;
        e.preventDefault();
        const box = e.currentTarget.getBoundingClientRect();
        tree.over = { key, how: e.clientY - box.top > box.height * 0.65 ? 'after' : 'into' };
      }}
      ondragend={() => {
        tree.dragged = null;
        tree.over = null;
      }}
      ondrop={(e) => {
        e.preventDefault();
        tree.drop(row);
      }}
      onclick={() => tree.choose(term.code, under)}
      onkeydown={(e) => {
        if (tree.press(e.key, row, { alt: e.altKey, ctrl: e.ctrlKey })) e.preventDefault();
      }}
    >
      {#if parents}
        <span
          class="chevron"
          class:open={tree.open[term.code]}
          role="presentation"
          onclick={(e) => {
            e.stopPropagation();
            tree.open[term.code] = !tree.open[term.code];
          }}><IconChevronRight size={13} strokeWidth={1.8} /></span
        >
      {:else}<span class="w-[17px] flex-none"></span>{/if}
      {#if term.notation}<span class="mono quiet flex-none">{term.notation}</span>{/if}
      <span class="min-w-0 flex-1 truncate" class:line-through={term.retired} class:quiet={term.retired || !term.label}
        >{term.label || 'New concept'}</span
      >
      <span class="num quiet small w-16">{of(term.code).own ? count(of(term.code).own) : ''}</span><span class="num w-20"
        >{of(term.code).all ? count(of(term.code).all) : ''}</span
      >
    </li>
  {/each}
</ul>

<style>
  .tree li {
    display: flex;
    align-items: center;
    gap: 6px;
    min-height: 27px;
    padding-right: 4px;
    border-top: 1px solid color-mix(in srgb, var(--hair) 55%, transparent);
    cursor: default;
  }
  .tree li:hover {
    background: color-mix(in srgb, var(--act-tint) 45%, transparent);
  }
  .tree li.at {
    background: var(--act-tint);
    box-shadow: inset 3px 0 0 var(--act);
  }
  .tree li.elsewhere {
    background: color-mix(in srgb, var(--act-tint) 55%, transparent);
  }
  .tree li.into {
    outline: 2px solid var(--act);
    outline-offset: -2px;
  }
  .tree li.after {
    box-shadow: inset 0 -2px 0 var(--act);
  }
  .tree li:focus-visible {
    outline-offset: -2px;
  }
  .chevron {
    flex: none;
    padding: 2px;
    color: var(--quiet);
    cursor: pointer;
  }
  .chevron.open :global(svg) {
    transform: rotate(90deg);
  }
</style>
