<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Alarms\Alarms;
use App\Models\Delivery;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Symfony\Component\Mailer\Envelope;
use Symfony\Component\Mailer\Exception\TransportExceptionInterface;
use Symfony\Component\Mailer\Exception\UnexpectedResponseException;
use Symfony\Component\Mailer\Transport;
use Symfony\Component\Mailer\Transport\TransportInterface;
use Symfony\Component\Mime\Address;
use Symfony\Component\Mime\Email;
use Symfony\Component\Mime\Exception\ExceptionInterface;
use Symfony\Component\Mime\RawMessage;

/**
 * Sends what is in the outbox by SMTP, if a server is set (BRENVIC_SMTP); otherwise it stays there to be looked at. A message
 * is sent once: it is noted as sent before the next is begun. Where the process is killed between the two, it may be sent twice.
 */
final readonly class Posting
{
    /** Messages in one look. */
    private const MOST = 50;

    private const TRIES = 8;

    /** Seconds before the second try; twice as long before each next. */
    private const WAIT = 60;

    public static function isSet(): bool
    {
        return (string) config('brenvic.smtp') !== '';
    }

    /** Whether there is mail that was given up. */
    public static function hasGivenUp(): bool
    {
        return self::isSet() && DB::table('outbox')->whereNull('sent_at')->where('tries', '>=', self::TRIES)->exists();
    }

    /** What was given up is sent once more. */
    public static function again(): void
    {
        DB::table('outbox')->whereNull('sent_at')->where('tries', '>=', self::TRIES)->update(['tries' => 0, 'again_at' => null]);
        Alarms::clear('mail');
    }

    /** @return int how many were sent */
    public function send(): int
    {
        if (! self::isSet()) {
            return 0;
        }
        $sent = 0;
        $rows = DB::table('outbox')
            ->whereNull('sent_at')
            ->where('tries', '<', self::TRIES)
            ->where(static fn ($q) => $q->whereNull('again_at')->orWhere('again_at', '<=', now()))
            ->orderBy('id')
            ->limit(self::MOST)
            ->get();
        $transport = $rows->isEmpty() ? null : Transport::fromDsn((string) config('brenvic.smtp'));
        foreach ($rows as $row) {
            $sent += $transport !== null && $this->one($transport, $row) ? 1 : 0;
        }

        return $sent;
    }

    private function one(TransportInterface $transport, \stdClass $row): bool
    {
        try {
            $from = new Address((string) config('brenvic.mail_from'));
            $to = array_map(static fn (string $address): Address => new Address(trim($address)), explode(',', (string) $row->to));
            $transport->send($this->message($row, $from, $to), new Envelope($from, $to));
            DB::table('outbox')->where('id', $row->id)->update(['sent_at' => now(), 'says' => '', 'file' => null]);
            Alarms::clear('mail');

            return true;
        } catch (TransportExceptionInterface|ExceptionInterface $fault) {
            // What the server refuses for good is not tried again.
            $isFinal = $fault instanceof ExceptionInterface || ($fault instanceof UnexpectedResponseException && $fault->getCode() >= 550);
            $tries = $isFinal ? self::TRIES : (int) $row->tries + 1;
            DB::table('outbox')
                ->where('id', $row->id)
                ->update([
                    'tries' => $tries,
                    'again_at' => Carbon::now()->addSeconds(self::WAIT * 2 ** ($tries - 1)),
                    'says' => mb_substr($fault->getMessage(), 0, 500),
                ]);
            $tries >= self::TRIES && Alarms::raise('mail', 'A message could not be sent. It is in the outbox of who sent it, with what the mail server said.');

            return false;
        }
    }

    /** @param  list<Address>  $to */
    private function message(\stdClass $row, Address $from, array $to): RawMessage
    {
        $delivery = $row->delivery_id === null ? null : Delivery::query()->find((int) $row->delivery_id);
        $file = $delivery?->file === null ? '' : Delivery::folder()."/{$delivery->file}";
        if ($file !== '' && is_file($file)) {
            return new RawMessage((string) file_get_contents($file));
        }

        $mail = (new Email())
            ->from($from)
            ->to(...$to)
            ->subject((string) $row->subject)
            ->date(Carbon::parse((string) $row->at)->toDateTimeImmutable())
            ->text((string) $row->text);

        return $row->file === null ? $mail : $mail->attach((string) $row->file, (string) $row->file_name);
    }
}
