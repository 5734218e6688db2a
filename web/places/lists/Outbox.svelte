<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { OutboxMail } from '@/api/types';
  import { bytes, moment, plural } from '@/parts/format';

  /** What is sent, or what would have been: without a mail server the outbox stands in for one. */
  let mails = $state.raw<OutboxMail[] | null>(null);
  let connected = $state(false);
  let fault = $state('');
  void api.outbox().then(
    (got) => {
      mails = got.mails;
      connected = got.connected;
    },
    (e: unknown) => (fault = messageOf(e, 'The outbox cannot be shown.')),
  );
</script>

<div class="h-full overflow-y-auto">
  <div class="mx-auto max-w-[860px] px-6 py-6">
    <h1 class="text-[26px]">Outbox</h1>
    <p class="quiet mt-1">
      {connected
        ? 'Your messages: lists and documents you delivered, notices, and one-time codes. They are sent by the mail server of the office.'
        : 'Messages as they would have been sent: lists and documents you delivered, notices, and one-time codes. No mail server is connected here.'}
      <a href="/lists">Pull lists</a>
    </p>
    {#if fault}<p class="fault mt-4" role="alert">{fault}</p>
    {:else if mails}
      <ul class="mt-4">
        {#each mails as mail (mail.id)}
          <li class="border-t border-hair py-2">
            <p class="flex items-baseline gap-3">
              <span class="min-w-0 flex-1 truncate font-serif text-[16px]">{mail.subject}</span><span class="small quiet"
                >{moment(mail.at)}</span
              >
            </p>
            <p class="small quiet">
              To {mail.to}{#if connected}, {mail.sent ? 'sent' : 'waiting to be sent'}{/if}
            </p>
            {#if connected && !mail.sent && mail.says}<p class="fault">{mail.says}</p>{/if}
            {#if mail.text}<p class="mt-1 max-w-prose whitespace-pre-wrap">{mail.text}</p>{/if}
            {#if mail.delivery !== null}<details class="small mt-1">
                <summary
                  >{plural(mail.files.length, 'document', 'documents')}, {bytes(mail.bytes)}{#if mail.there}&ensp;<a
                      href={api.deliveryFile(mail.delivery!)}
                      download>fetch the mail</a
                    >{/if}</summary
                >
                <ul>
                  {#each mail.files as file (file.ref)}<li class="border-t border-hair py-0.5">
                      <a href={`/documents/${file.ref}`}>{file.title}</a> <span class="quiet">{file.file || 'not attached'}</span>
                    </li>{/each}
                </ul>
              </details>{/if}
          </li>
        {:else}<li class="quiet border-t border-hair py-3">Nothing was mailed yet. Open a pull list and deliver it as mail.</li>{/each}
      </ul>
    {:else}<p class="quiet mt-4">Loading…</p>{/if}
  </div>
</div>
