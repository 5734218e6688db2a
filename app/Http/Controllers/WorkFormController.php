<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Catalog\Catalog;
use App\Intake\InvalidSheet;
use App\Models\User;
use App\Procedures\FormArrivals;
use App\Procedures\FormKeys;
use App\Support\DiskFull;
use App\Support\Refused;
use App\Support\Tries;
use Brenvic\Core\Design\SheetEntry;
use Brenvic\Core\Design\WorkFormPart;
use Brenvic\Core\Fields\FieldDefinition;
use Illuminate\Contracts\Encryption\DecryptException;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\Crypt;
use Illuminate\Support\Facades\RateLimiter;
use Illuminate\Support\Str;

/** The pages of work forms, which people outside fill in without an account, and their addresses. */
final readonly class WorkFormController
{
    /** What is sent by one form within an hour; more is a flood. */
    private const MOST_AN_HOUR = 60;

    /** Nobody fills a form in so fast, in seconds; nor does anybody leave it open so long. */
    private const FASTEST = 2;

    private const SLOWEST = 86_400;

    public function __construct(private FormKeys $keys, private FormArrivals $arrivals, private Catalog $catalog)
    {
    }

    public function show(Request $request, string $key): Response
    {
        $form = $this->keys->find($key);

        return $this->page($key, $form, isSent: $request->query('sent') === '1');
    }

    public function send(Request $request, string $key): Response|RedirectResponse
    {
        $form = $this->keys->find($key);
        if ($form === null) {
            return $this->page($key, null);
        }
        Tries::guard("work-form/{$form->code}", self::MOST_AN_HOUR);
        // Programs fill in what people do not see, and at once.
        $token = self::opened((string) $request->input('opened'));
        $isPerson = (string) $request->input('website') === '' && $token !== null && now()->getTimestamp() - $token['at'] >= self::FASTEST;
        if (! $isPerson || now()->getTimestamp() - $token['at'] > self::SLOWEST) {
            $says = 'The form was open too short or too long. Look at it again, and send it once more.';

            return $this->page($key, $form, $this->given($request, $form), ['' => $says], status: 422);
        }
        $files = $this->sent($request);
        $fault = self::faultOf($files, $form);
        if ($fault !== null) {
            return $this->page($key, $form, $this->given($request, $form), ['files' => $fault], status: 422);
        }
        // What is sent again by going back, or by a slow line, is taken once.
        if (! Cache::add("work-form/{$token['nonce']}", 1, self::SLOWEST)) {
            return new RedirectResponse("/form/{$key}?sent=1");
        }
        try {
            $this->arrivals->take($form, $this->given($request, $form), $files);
        } catch (InvalidSheet|Refused $why) {
            Cache::forget("work-form/{$token['nonce']}");
            $faults = $why instanceof InvalidSheet ? $why->faults : ['' => $why->getMessage()];

            return $this->page($key, $form, $this->given($request, $form), $faults, status: 422);
        } catch (\Throwable $why) {
            Cache::forget("work-form/{$token['nonce']}");
            if (! DiskFull::isWhy($why)) {
                throw $why;
            }

            return $this->page($key, $form, $this->given($request, $form), ['' => 'Nothing can be taken at the moment. Try again later.'], status: 507);
        }
        RateLimiter::hit("work-form/{$form->code}", 3_600);

        return new RedirectResponse("/form/{$key}?sent=1");
    }

    public function address(string $code): JsonResponse
    {
        return new JsonResponse(['address' => $this->keys->address($code)]);
    }

    public function makeAddress(Request $request, string $code): JsonResponse
    {
        return new JsonResponse(['address' => $this->keys->make($code, User::of($request))]);
    }

    public function revokeAddress(string $code): JsonResponse
    {
        $this->keys->revoke($code);

        return new JsonResponse(['address' => null]);
    }

    /**
     * @param  array<string, list<string>>  $given
     * @param  array<string, string>  $faults  by field code; '' for the whole
     */
    private function page(string $key, ?WorkFormPart $form, array $given = [], array $faults = [], bool $isSent = false, int $status = 200): Response
    {
        $fields = $this->catalog->fields();
        $shown = array_map(
            static fn (SheetEntry $entry): array => [
                'code' => $entry->code,
                'required' => $entry->isRequired,
                'value' => $given[$entry->code][0] ?? '',
                'fault' => $faults[$entry->code] ?? null,
                ...self::input($fields[$entry->code] ?? null, $entry->code),
            ],
            $form->fields ?? [],
        );

        return new Response(
            view('work-form', [
                'form' => $form,
                'key' => $key,
                'fields' => $shown,
                'fault' => $faults[''] ?? null,
                'fileFault' => $faults['files'] ?? null,
                'isSent' => $isSent,
                'opened' => Crypt::encryptString(now()->getTimestamp().' '.Str::random(20)),
                'megabytes' => intdiv((int) config('brenvic.limits.form_bytes'), 1_048_576),
            ]),
            $form === null ? 404 : $status,
            ['Cache-Control' => 'no-store', 'X-Robots-Tag' => 'noindex'],
        );
    }

    /** @return array{label: string, help: string, as: string, terms: array<string, string>} how a field is asked for */
    private static function input(?FieldDefinition $field, string $code): array
    {
        $terms = array_map(
            static fn ($term): string => $term->label,
            array_filter($field?->vocabulary->terms ?? [], static fn ($term): bool => ! $term->retired),
        );

        return [
            'label' => $field === null ? $code : $field->label.($field->unit === '' ? '' : ", {$field->unit}"),
            'help' => $field->help ?? '',
            'as' => match (true) {
                $terms !== [] => 'choice',
                default => $field?->kind->widget() ?? 'text',
            },
            'terms' => array_combine(array_map(strval(...), array_keys($terms)), array_values($terms)),
        ];
    }

    /** @return array<string, list<string>> */
    private function given(Request $request, WorkFormPart $form): array
    {
        $given = [];
        foreach ($form->fieldCodes() as $code) {
            $value = $request->input("field.{$code}");
            $given[$code] = is_string($value) && trim($value) !== '' ? [mb_substr(mb_scrub($value), 0, 10_000)] : [];
        }

        return $given;
    }

    /** @return list<UploadedFile> */
    private function sent(Request $request): array
    {
        $files = $request->file('files') ?? [];

        return array_values(is_array($files) ? $files : [$files]);
    }

    /** @param  list<UploadedFile>  $files */
    private static function faultOf(array $files, WorkFormPart $form): ?string
    {
        $most = (int) config('brenvic.limits.form_bytes');
        $bytes = array_sum(array_map(static fn (UploadedFile $file): int => (int) $file->getSize(), $files));

        return match (true) {
            count($files) > $form->files => $form->files === 0 ? 'No files can be sent with this form.' : "Send {$form->files} files at most.",
            array_filter($files, static fn (UploadedFile $file): bool => ! $file->isValid()) !== [] => 'A file did not arrive whole. Choose it again.',
            $bytes > $most => 'The files are too large. Send '.intdiv($most, 1_048_576).' MB at most.',
            default => null,
        };
    }

    /** @return array{at: int, nonce: string}|null when a page was opened, as it says itself */
    private static function opened(string $token): ?array
    {
        try {
            $parts = explode(' ', Crypt::decryptString($token));
        } catch (DecryptException) {
            return null;
        }

        return count($parts) === 2 && ctype_digit($parts[0]) ? ['at' => (int) $parts[0], 'nonce' => $parts[1]] : null;
    }
}
