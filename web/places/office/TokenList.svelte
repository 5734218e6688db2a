<script lang="ts">
  import type { Token, TokensAnswer } from '@/api/types';
  import { moment } from '@/parts/format';

  /** Tokens, with what they may do and until when. `onrevoke` ends one. */
  const {
    tokens,
    rights,
    libraries,
    onrevoke,
  }: Pick<TokensAnswer, 'tokens' | 'rights' | 'libraries'> & { onrevoke: (token: Token) => unknown } = $props();

  const label = (right: string) => rights.find((r) => r.value === right)?.label.toLowerCase() ?? right;
  const libraryName = (code: string) => libraries.find((l) => l.code === code)?.name ?? code;
  const where = (token: Token) => (token.libraries?.length ? `, in ${token.libraries.map(libraryName).join(', ')}` : '');
  const used = (token: Token) => (token.used_at ? `, last used ${moment(token.used_at)}` : ', not used yet');
  /** What it is called where those of several people are told. */
  const called = (token: Token) => (token.person ? `${token.name} of ${token.person.name}` : token.name);
</script>

<ul>
  {#each tokens as token (token.id)}
    <li class="flex items-baseline gap-3 border-t border-hair py-1 first:border-t-0">
      <span class="flex-1"
        >{token.name}{#if token.person}<span class="quiet">, {token.person.name}</span>{/if}<span class="small quiet block"
          >{token.rights.map(label).join(', ')}{where(token)}; {token.is_over ? 'ended' : 'until'}
          {moment(token.expires_at)}{used(token)}</span
        ></span
      >
      <button class="link" onclick={() => onrevoke(token)} aria-label={`Revoke ${called(token)}`}>Revoke</button>
    </li>
  {/each}
</ul>
