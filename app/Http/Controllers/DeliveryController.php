<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Rights;
use App\Http\Requests\MailInput;
use App\Http\Resources\PullListResource;
use App\Jobs\Urgency;
use App\Models\Delivery;
use App\Models\DeliveryForm;
use App\Models\Document;
use App\Models\SecureLink;
use App\Models\User;
use App\Retrieve\Deliver;
use App\Retrieve\DeliveryFormats;
use App\Retrieve\DeliveryMaker;
use App\Retrieve\DeliveryRights;
use App\Retrieve\Outgoing;
use App\Retrieve\Posting;
use App\Retrieve\PullLists;
use App\Retrieve\SecureLinks;
use App\Support\Column;
use App\Support\Refused;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Hash;
use Illuminate\Validation\Rule;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\HeaderUtils;

/** Deliveries of pull lists, and secure links by which people outside fetch them. */
final readonly class DeliveryController
{
    /** Documents of a delivery that are listed at once. */
    private const CONTENTS = 500;

    public function __construct(private PullLists $lists, private DeliveryRights $rights)
    {
    }

    public function store(Request $request, int $list): JsonResponse
    {
        $input = $request->validate([
            'format' => ['required', Rule::in(DeliveryFormats::codes())],
            'labels' => 'boolean',
            'to' => ['required_if:format,mail', 'nullable', 'string', 'max:1000', MailInput::addresses(...)],
            'subject' => 'required_if:format,mail|nullable|string|max:300',
            'text' => 'nullable|string|max:10000',
            'names' => 'nullable|string|max:200',
            'levels' => 'array|max:8',
            'levels.*' => 'string|max:40',
            'form' => ['nullable', Rule::enum(DeliveryForm::class)],
        ]);
        $format = DeliveryFormats::all()[$input['format']];
        $found = $this->lists->of(User::of($request))->findOrFail($list);
        $seen = $this->lists->seen(User::of($request), $found);
        if ($seen === []) {
            throw new Refused('There is nothing in the list to deliver.');
        }
        $delivery = Delivery::query()->create([
            'pull_list_id' => $found->id,
            'user_id' => User::of($request)->id,
            'name' => $found->name,
            'format' => $input['format'],
            'settings' => [
                'names' => $input['names'] ?? '{reference} {file}',
                'levels' => $input['levels'] ?? [],
                'form' => $input['form'] ?? DeliveryForm::AsItIs->value,
                'labels' => (bool) ($input['labels'] ?? false),
                'spreadsheet' => $format->isForSpreadsheet(),
                ...$format->isSent() ? ['to' => $input['to'], 'subject' => $input['subject'], 'text' => $input['text'] ?? ''] : [],
            ],
        ]);
        Deliver::dispatch($delivery->id)->onQueue(Urgency::of(count($seen))->value);

        return new JsonResponse(PullListResource::delivery($delivery->refresh()), 201);
    }

    public function show(Request $request, int $delivery): JsonResponse
    {
        $found = $this->delivery($request, $delivery);

        $contents = $found->contents((int) ($request->validate(['from' => 'integer|min:0'])['from'] ?? 0), self::CONTENTS);
        $seen = $this->rights->seen($found->user, array_column($contents, 'ref'));
        $contents = array_values(array_filter($contents, static fn (array $item): bool => in_array($item['ref'], $seen, true)));

        return new JsonResponse([
            ...PullListResource::delivery($found),
            'contents' => $contents,
            'links' => SecureLink::query()
                ->where('delivery_id', $found->id)
                ->where('user_id', User::of($request)->id)
                ->with(['delivery', 'document'])
                ->orderByDesc('id')
                ->get()
                ->map(PullListResource::link(...))
                ->all(),
        ]);
    }

    public function cancel(Request $request, int $delivery): JsonResponse
    {
        $found = $this->delivery($request, $delivery);
        Delivery::query()
            ->whereKey($found->id)
            ->whereIn('state', [Delivery::WAITING, Delivery::RUNNING])
            ->update(['state' => Delivery::CANCELLED, 'message' => 'It was cancelled. Nothing of it was kept.']);

        return new JsonResponse(PullListResource::delivery($found->refresh()));
    }

    public function file(Request $request, int $delivery): BinaryFileResponse
    {
        $found = $this->delivery($request, $delivery);
        if ($found->state === Delivery::DONE && ! $this->rights->mayLeave($found)) {
            throw new Refused(
                'This delivery has documents that you may not take away any more. Make it again: it will hold what you may see now.',
            );
        }

        return self::sent($found);
    }

    /** Makes a link for somebody outside. Its address is in this answer and nowhere else. */
    public function link(Request $request, int $delivery): JsonResponse
    {
        $found = $this->delivery($request, $delivery);
        if ($found->state !== Delivery::DONE) {
            throw new Refused('This delivery can no longer be downloaded. Make it again.');
        }

        if (! $this->rights->mayLeave($found)) {
            throw new Refused(
                'This delivery has documents that you may not take away any more. Make it again: it will hold what you may see now.',
            );
        }

        return $this->made($request, ['delivery_id' => $found->id]);
    }

    public function documentLink(Request $request, Document $document): JsonResponse
    {
        return $this->made($request, ['document_id' => $document->id]);
    }

    /** What would have been sent by mail: the person’s own, the latest first. */
    public function outbox(Request $request): JsonResponse
    {
        $mails = DB::table('outbox')
            ->leftJoin('deliveries', 'deliveries.id', '=', 'outbox.delivery_id')
            ->where('outbox.user_id', User::of($request)->id)
            ->orderByDesc('outbox.id')
            ->limit(200)
            ->get([
                'outbox.id',
                'outbox.to',
                'outbox.subject',
                'outbox.at',
                'outbox.text',
                'outbox.sent_at',
                'outbox.says',
                'outbox.file_name',
                'deliveries.id as delivery',
                'deliveries.bytes',
                'deliveries.settings',
                'deliveries.expires_at',
            ]);
        $files = DB::table('delivery_items')
            ->whereIntegerInRaw('delivery_id', $mails->pluck('delivery')->filter()->all())
            ->orderBy('id')
            ->get(['delivery_id', 'ref', 'title', 'file']);
        $seen = array_flip($this->rights->seen(User::of($request), Column::texts($files->pluck('ref'))));
        $byDelivery = [];
        foreach ($files as $item) {
            if (isset($seen[$item->ref])) {
                $byDelivery[(int) $item->delivery_id][] = [
                    'ref' => $item->ref,
                    'title' => $item->title,
                    'file' => basename((string) $item->file),
                ];
            }
        }
        $shown = [];
        foreach ($mails as $m) {
            $shown[] = [
                'id' => $m->id,
                'to' => $m->to,
                'subject' => $m->subject,
                'at' => $m->at,
                'text' => (string) ($m->text ?? (json_decode((string) $m->settings, true)['text'] ?? '')),
                'delivery' => $m->delivery,
                'bytes' => (int) $m->bytes,
                'files' => $m->file_name === null
                        ? $byDelivery[(int) $m->delivery] ?? []
                        : [['ref' => '', 'title' => $m->file_name, 'file' => $m->file_name]],
                'sent' => Posting::isSet() && $m->sent_at !== null,
                'says' => (string) $m->says,
                'there' => $m->expires_at !== null && now()->lessThan($m->expires_at),
            ];
        }

        return new JsonResponse(['mails' => $shown, 'connected' => Posting::isSet()]);
    }

    /** @return JsonResponse all links that the person made */
    public function links(Request $request): JsonResponse
    {
        $user = User::of($request);
        $links = SecureLink::query()
            ->where('user_id', $user->id)
            ->with(['delivery', 'document'])
            ->orderByDesc('id')
            ->limit(200)
            ->get();
        $seen = $this->rights->seen(
            $user,
            array_values(array_filter($links->map(static fn (SecureLink $link): ?string => $link->document?->ref)->all())),
        );

        return new JsonResponse([
            'links' => $links
                ->map(
                    static fn (SecureLink $link): array => [
                        ...PullListResource::link($link),
                        ...$link->document === null || in_array($link->document->ref, $seen, true)
                            ? []
                            : ['of' => 'A document that you may not see any more'],
                    ],
                )
                ->all(),
        ]);
    }

    public function revoke(Request $request, int $link): JsonResponse
    {
        $found = SecureLink::query()
            ->where('user_id', User::of($request)->id)
            ->with(['delivery', 'document'])
            ->findOrFail($link);
        $found->update(['revoked_at' => now()]);

        return new JsonResponse(PullListResource::link($found));
    }

    /** The page an outsider sees: a button, or a line for the password. It tells nothing of what is behind it. */
    public function outside(string $token): Response
    {
        $link = self::found($token);

        return new Response(
            view('outside', [
                'open' => $link !== null && $link->isOpen(),
                'password' => $link?->password !== null,
                'wrong' => false,
                'token' => $token,
            ]),
            $link !== null && $link->isOpen() ? 200 : 404,
            ['Cache-Control' => 'no-store', 'X-Robots-Tag' => 'noindex'],
        );
    }

    /** Gives what is behind a link, once more counted. A link that is revoked, used up or never was says the same. */
    public function fetch(Request $request, string $token, Outgoing $outgoing, Rights $rights): BinaryFileResponse|Response
    {
        $link = self::found($token);
        try {
            $file =
                $link?->document === null || ! $rights->sees($link->user, $link->document)
                    ? null
                    : $outgoing->file($link->user, $link->document, $link->form);
        } catch (Refused) {
            $file = null;
        }
        $isRight = $link !== null && ($link->password === null || Hash::check((string) $request->input('password'), $link->password));
        $outcome = match (true) {
            $link === null => null,
            // What its maker may not see any more, or what may not leave yet, is as closed as a link that is used up.
            ! $link->isOpen() ||
                ($link->document_id !== null && $file === null) ||
                ($link->delivery !== null && ! $this->rights->mayLeave($link->delivery)) => 'closed',
            ! $isRight => 'wrong password',
            default => 'fetched',
        };
        // Counted in one step, so that two at once cannot both be the last.
        if (
            $outcome === 'fetched' &&
            SecureLink::query()->whereKey($link->id)->whereColumn('uses', '<', 'most_uses')->increment('uses') === 0
        ) {
            $outcome = 'closed';
        }
        if ($link !== null && $outcome !== null) {
            DB::table('secure_link_uses')->insert([
                'secure_link_id' => $link->id,
                'at' => now(),
                'outcome' => $outcome,
                'from' => (string) $request->ip(),
            ]);
        }
        if ($outcome !== 'fetched') {
            return new Response(
                view('outside', [
                    'open' => $outcome === 'wrong password',
                    'password' => true,
                    'wrong' => $outcome === 'wrong password',
                    'token' => $token,
                ]),
                $outcome === 'wrong password' ? 422 : 404,
                ['Cache-Control' => 'no-store'],
            );
        }
        if ($link->delivery !== null) {
            return self::sent($link->delivery);
        }
        $file ?? abort(404);

        return new BinaryFileResponse(
            $file->path,
            200,
            [
                'Content-Type' => 'application/octet-stream',
                'Content-Disposition' => HeaderUtils::makeDisposition('attachment', $file->name, 'document'),
                'Cache-Control' => 'private, no-store',
            ],
            false,
        );
    }

    private static function found(string $token): ?SecureLink
    {
        return SecureLink::query()
            ->with(['delivery', 'document', 'user'])
            ->where('token_hash', hash('sha256', $token))
            ->first();
    }

    /** @param  array<string, int>  $of */
    private function made(Request $request, array $of): JsonResponse
    {
        $input = $request->validate([
            'note' => 'nullable|string|max:200',
            'password' => 'nullable|string|min:6|max:200',
            'most_uses' => 'required|integer|min:1|max:1000',
            'days' => 'required|integer|min:1|max:365',
            'form' => ['nullable', Rule::enum(DeliveryForm::class)],
        ]);
        $made = SecureLinks::make(User::of($request), $of, [
            'note' => $input['note'] ?? '',
            'password' => $input['password'] ?? '',
            'form' => $input['form'] ?? DeliveryForm::AsItIs->value,
            'most_uses' => (int) $input['most_uses'],
            'days' => (int) $input['days'],
        ]);

        return new JsonResponse(
            ['address' => $made['address'], 'link' => PullListResource::link($made['link']->load(['delivery', 'document']))],
            201,
        );
    }

    private static function sent(Delivery $delivery): BinaryFileResponse
    {
        $path = Delivery::folder().'/'.$delivery->file;
        abort_unless(
            $delivery->state === Delivery::DONE && $delivery->file !== null && $delivery->expires_at?->isFuture() && is_file($path),
            404,
        );

        // A print job opens where it is printed from; everything else is taken away.
        $isShown = DeliveryFormats::of($delivery)->isShown();

        return new BinaryFileResponse(
            $path,
            200,
            [
                ...$isShown ? ['Content-Type' => 'application/pdf', 'Content-Security-Policy' => 'sandbox'] : [],
                'Content-Disposition' => HeaderUtils::makeDisposition(
                    $isShown ? 'inline' : 'attachment',
                    DeliveryMaker::name($delivery).'.'.pathinfo($path, PATHINFO_EXTENSION),
                    "delivery-{$delivery->id}.".pathinfo($path, PATHINFO_EXTENSION),
                ),
                'X-Content-Type-Options' => 'nosniff',
                'Cache-Control' => 'private, no-store',
            ],
            false,
        );
    }

    /** Only who asked for a delivery fetches it: it holds what that person may see. */
    private function delivery(Request $request, int $delivery): Delivery
    {
        return Delivery::query()->with('user')->where('user_id', User::of($request)->id)->findOrFail($delivery);
    }
}
