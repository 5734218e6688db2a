<?php

declare(strict_types=1);

namespace App\Intake\Sources;

use App\Support\Refused;
use Brenvic\Core\Design\SourcePart;

/**
 * A mailbox that lies on the server itself as a maildir, as mail programs there deliver into it: a mail a file, whole as soon as
 * it is in `new`. Mails that came in go to the folder for them beside it, or away.
 */
final class Maildir implements SourceOf
{
    private const BOXES = ['new', 'cur'];

    /** Mails taken in one look. */
    private const AT_ONCE = 50;

    /** Bytes of a mail in which its subject stands. */
    private const HEAD = 65_536;

    public function __construct(private readonly SourcePart $source, private readonly string $folder)
    {
    }

    public function make(): void
    {
        foreach (['tmp', ...self::BOXES] as $box) {
            is_dir("{$this->folder}/{$box}") || @mkdir("{$this->folder}/{$box}", 0770, true);
        }
    }

    public function look(ArrivingFile $arriving): int
    {
        if (! is_dir("{$this->folder}/new")) {
            throw new Refused("The mailbox “{$this->source->mailbox}” is not there.");
        }
        $count = 0;
        foreach (array_slice($this->mails(), 0, self::AT_ONCE) as $mail) {
            // The name of a mail is given once; what stands behind the colon is how it was read.
            $token = mb_substr(explode(':', basename($mail))[0], 0, 60);
            $isSafe = false;
            try {
                $subject = MailNames::subjectOf((string) file_get_contents($mail, length: self::HEAD));
                $parts = $this->source->rules === [] ? [] : MailNames::parts($mail);
                $isNew = $arriving->bring($this->source, $token, $mail, MailNames::file($subject), [], $parts) !== null;
                $count += $isNew ? 1 : 0;
                $isSafe = true;
            } catch (Refused) {
                // Why is for who reads the mail there: it keeps its place, apart from what came in.
            }
            $this->putAway($mail, $isSafe);
        }

        return $count;
    }

    /** @return list<string> the oldest first */
    private function mails(): array
    {
        $found = [];
        foreach (self::BOXES as $box) {
            foreach (@scandir("{$this->folder}/{$box}") ?: [] as $name) {
                if ($name[0] !== '.' && is_file("{$this->folder}/{$box}/{$name}")) {
                    $found["{$this->folder}/{$box}/{$name}"] = $name;
                }
            }
        }
        asort($found, SORT_NATURAL);

        return array_keys($found);
    }

    private function putAway(string $mail, bool $isSafe): void
    {
        if ($isSafe && $this->source->isRemoved) {
            unlink($mail);

            return;
        }
        $into = "{$this->folder}/.".($isSafe ? Mailbox::DONE : Mailbox::REFUSED).'/cur';
        is_dir($into) || mkdir($into, 0770, true);
        rename($mail, "{$into}/".basename($mail));
    }
}
