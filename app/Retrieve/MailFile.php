<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Models\Delivery;
use App\Support\Refused;
use Illuminate\Support\Facades\DB;
use Symfony\Component\Mime\Address;
use Symfony\Component\Mime\Email;

/**
 * Writes a delivery as a mail with its files attached and puts it into the outbox. The outbox that ships with the
 * application sends nothing: it shows what would have been sent.
 */
final class MailFile
{
    /** What mail servers take, in bytes of the files. */
    public const MOST = 20 * 1024 * 1024;

    /** @param  list<array{ref: string, title: string, file: string, remark: string}>  $contents  files relative to the folder */
    public static function make(Delivery $delivery, array $contents, string $folder): string
    {
        $bytes = array_sum(
            array_map(static fn (array $c): int => $c['file'] === '' ? 0 : (int) filesize("{$folder}/bag/{$c['file']}"), $contents),
        );
        if ($bytes > self::MOST) {
            throw new Refused(
                'The files have '.
                    (int) round($bytes / 1_048_576).
                    ' MB; a mail takes '.
                    intdiv(self::MOST, 1_048_576).
                    '. Deliver them as files in folders and send a secure link.',
            );
        }
        $settings = $delivery->settings;
        $lines = array_map(
            static fn (array $c): string => "{$c['ref']}  {$c['title']}".($c['remark'] === '' ? '' : "\n    {$c['remark']}"),
            $contents,
        );
        $mail = (new Email())
            ->from(new Address((string) config('brenvic.mail_from'), $delivery->user->name))
            ->to(...array_map(trim(...), explode(',', (string) $settings['to'])))
            ->subject((string) $settings['subject'])
            ->date($delivery->created_at->toDateTimeImmutable())
            ->text(trim((string) ($settings['text'] ?? ''))."\n\n".implode("\n", $lines)."\n");
        foreach ($contents as $item) {
            if ($item['file'] !== '') {
                $mail->attachFromPath("{$folder}/bag/{$item['file']}", basename($item['file']));
            }
        }
        $target = "{$folder}/mail.eml";
        $stream = fopen($target, 'wb') ?: throw new \RuntimeException('The mail cannot be written.');
        foreach ($mail->toIterable() as $piece) {
            fwrite($stream, $piece);
        }
        fclose($stream);

        return $target;
    }

    /** Puts a finished mail into the outbox. */
    public static function post(Delivery $delivery): void
    {
        DB::table('outbox')->insert([
            'delivery_id' => $delivery->id,
            'user_id' => $delivery->user_id,
            'to' => (string) $delivery->settings['to'],
            'subject' => (string) $delivery->settings['subject'],
            'at' => now(),
        ]);
    }
}
