<?php

declare(strict_types=1);

namespace Demo;

use Brenvic\Core\Fields\CheckCharacter;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\File;

/** Delivers mails of the demo organisation into the mailbox that ships as a stand-in, as a mail program of the server would. */
final class MailCommand extends Command
{
    protected $signature = 'brenvic:demo-mail {count=24 : how many mails} {--seed=4 : what they say}';

    protected $description = 'Puts mails of the demo organisation into the mailbox “post”';

    private const PEOPLE = [
        'Osric Vane <osric.vane@tarnwick.example>',
        'Maud Ferris <maud.ferris@tarnwick.example>',
        'Lock office <locks@tarnwick.example>',
        'Hollin Weir Farm <post@hollin-weir.example>',
    ];

    private const WATERWAYS = ['Sea lock pound', 'Summit pound', 'Coal basin'];

    private const WHY = [
        'for the change of a balance beam', 'while the sill is mended', 'because the feeder is low', 'for the lifting of a sunken skiff',
        'while masons set the coping', 'because of a slip in the cutting',
    ];

    private const WEEDS = ['hornwort', 'duckweed', 'blanket weed', 'floating pennywort', 'reed from the banks'];

    private const FINDINGS = [
        'The collar of the east gate is worn.', 'Water runs under the lower gate.', 'The paddle gear works and was greased.',
        'Two boards of the sill are gone.', 'The quoins are sound.', 'The walkway wants a new rail.',
    ];

    public function handle(): int
    {
        $address = config('brenvic.mailboxes.post');
        if (! is_string($address) || ! str_starts_with($address, 'maildir:')) {
            $this->error('The mailbox “post” is not the stand-in.');

            return self::FAILURE;
        }
        $folder = substr($address, strlen('maildir:'));
        foreach (['tmp', 'new', 'cur'] as $box) {
            File::ensureDirectoryExists("{$folder}/{$box}");
        }
        $chance = new Chance((int) $this->option('seed'));
        $count = (int) $this->argument('count');
        for ($i = 1; $i <= $count; $i++) {
            $this->deliver($folder, $i, $chance);
        }
        $this->info("{$count} mails are in the mailbox.");

        return self::SUCCESS;
    }

    private function deliver(string $folder, int $i, Chance $chance): void
    {
        $day = date('j F Y', (int) strtotime('2025-01-05 +'.(7 * $i + $chance->int(0, 5)).' days'));
        [$subject, $body] = [self::stoppage(...), self::weed(...), self::inspection(...)][$i % 3]($i, $day, $chance);
        $name = time().sprintf('.M%06dP%d_%d', $i, getmypid(), $i).'.demo';
        FileMaker::mail(
            "{$folder}/tmp/{$name}",
            self::PEOPLE[$i % count(self::PEOPLE)],
            'Records office <records@tarnwick.example>',
            $subject,
            $day,
            $body,
            [],
            "demo-{$name}",
        );
        // Whole as soon as it is there.
        rename("{$folder}/tmp/{$name}", "{$folder}/new/{$name}");
    }

    private static function lock(int $i): string
    {
        $code = sprintf('LK-04%02d-', 3 + $i % 14);

        return $code.CheckCharacter::for($code);
    }

    /** @return array{string, string} */
    private static function stoppage(int $i, string $day, Chance $chance): array
    {
        $where = self::WATERWAYS[$i % count(self::WATERWAYS)];
        $why = self::WHY[$chance->int(0, count(self::WHY) - 1)];

        return [
            "Stoppage at {$where}",
            'Dated '.$day.".\n\nThe navigation at {$where} is shut {$why}, by lock ".self::lock($i).
                ".\nBoats wait above; the keeper lets them through by hand where that can be done.\n\nOsric Vane",
        ];
    }

    /** @return array{string, string} */
    private static function weed(int $i, string $day, Chance $chance): array
    {
        $where = self::WATERWAYS[$i % count(self::WATERWAYS)];
        $weed = self::WEEDS[$chance->int(0, count(self::WEEDS) - 1)];
        $depth = number_format($chance->int(15, 95) / 100, 2);

        return [
            "Weed and silt, {$where}",
            'Seen on '.$day.".\n\nThere is {$weed} at {$where}. The silt measures {$depth} m at the gauge.\n\nMaud Ferris",
        ];
    }

    /** @return array{string, string} */
    private static function inspection(int $i, string $day, Chance $chance): array
    {
        $lock = self::lock($i);
        $first = self::FINDINGS[$chance->int(0, count(self::FINDINGS) - 1)];
        $second = self::FINDINGS[$chance->int(0, count(self::FINDINGS) - 1)];

        return [
            "Inspection of {$lock}",
            'Inspected on '.$day." by Osric Vane.\n\nStructure {$lock}, at ".self::WATERWAYS[$i % count(self::WATERWAYS)].
                ". {$first} {$second}",
        ];
    }
}
