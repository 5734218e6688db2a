<?php

declare(strict_types=1);

namespace Demo;

use Brenvic\Core\Fields\CheckCharacter;
use Brenvic\Core\Fields\PartialDate;
use DateTimeImmutable;
use LogicException;

/**
 * The documents of the Trust: writes files and, for each library, a values file for import. The same seed gives the
 * same files.
 */
final class Collection
{
    private const REACHES = [
        'tarn-summit',
        'tarn-flight',
        'tarn-cray',
        'tarn-aq',
        'tarn-sea',
        'basin-upper',
        'basin-lower',
        'basin-coal',
        'res-hallow',
        'res-mere',
        'hb-inner',
    ];

    private const LABELS = [
        'tarn-summit' => 'Summit pound',
        'tarn-flight' => 'Pellow flight',
        'tarn-cray' => 'Cray cutting',
        'tarn-aq' => 'Oxbeck aqueduct',
        'tarn-sea' => 'Sea lock pound',
        'basin-upper' => 'Upper basin',
        'basin-lower' => 'Lower basin',
        'basin-coal' => 'Coal basin',
        'res-hallow' => 'Hallow Water',
        'res-mere' => 'Brinmere',
        'hb-inner' => 'Inner harbour',
        'hb-outer' => 'Outer harbour',
    ];

    private readonly Chance $chance;

    /** For what was added later, so that everything else stays as it was. */
    private readonly Chance $more;

    /** @var array<string, array<string, array<string, string>>> library => file => field => value */
    private array $values = [];

    /** @var array<string, array{string, string}> structure => kind in words and reach */
    private array $structures = [];

    /** @var array<string, string> identifier of the first notice that went by mail, by reach */
    private array $firstNotice = [];

    public function __construct(private readonly string $folder)
    {
        $this->chance = new Chance(1793);
        $this->more = new Chance(1821);
        foreach (range(1, 34) as $i) {
            $number = sprintf('%s-%04d-', $i <= 24 ? 'LK' : 'BR', 400 + $i * 7);
            $this->structures[$number.CheckCharacter::for($number)] = [
                $i <= 24 ? 'Lock '.$i : 'Bridge '.($i - 24),
                self::REACHES[$i % 8],
            ];
        }
    }

    /** @return list<string> codes of the libraries that files were made for */
    public function make(): array
    {
        $this->waterways();
        $this->harbour();
        $this->works();
        $this->heritage();
        $this->board();
        $this->mess();
        foreach ($this->values as $library => $rows) {
            $columns = array_keys(array_merge([], ...array_values($rows)));
            $stream = fopen("{$this->folder}/{$library}.csv", 'wb');
            if ($stream !== false) {
                fputcsv($stream, ['file', ...$columns], escape: '');
                foreach ($rows as $file => $row) {
                    fputcsv($stream, [$file, ...array_map(static fn (string $column): string => $row[$column] ?? '', $columns)], escape: '');
                }
                fclose($stream);
            }
        }

        return array_keys($this->values);
    }

    /** @param  array<string, string>  $values */
    private function file(string $library, string $name, string $type, array $values): string
    {
        $this->values[$library][$name] = ['type' => $type, ...$values];
        $path = "{$this->folder}/{$library}/{$name}";
        is_dir(dirname($path)) || mkdir(dirname($path), 0777, true);

        return $path;
    }

    private function structure(): string
    {
        return $this->chance->pick(array_keys($this->structures) ?: throw new LogicException('There are no structures.'));
    }

    /** Some weeks of works after a date. */
    private function period(string $after): string
    {
        $from = (new DateTimeImmutable($after))->modify('+'.$this->more->int(20, 90).' days');

        return $from->format('Y-m-d').'/'.$from->modify('+'.$this->more->int(5, 200).' days')->format('Y-m-d');
    }

    private static function shown(string $date): string
    {
        return PartialDate::parse($date)->display();
    }

    /** @return list<string> */
    private function paragraphs(string $pool, int $count): array
    {
        $paragraphs = [];
        for ($i = 0; $i < $count; $i++) {
            $paragraphs[] = Words::paragraph($this->chance, $pool, $this->chance->int(2, 5));
        }

        return $paragraphs;
    }

    private function waterways(): void
    {
        $c = $this->chance;
        for ($i = 1; $i <= 320; $i++) {
            $structure = $this->structure();
            [$kind, $reach] = $this->structures[$structure];
            $date = $c->date(2012, 2025);
            $inspector = $c->pick(Words::PEOPLE);
            $grade = $c->pick(['a', 'b', 'b', 'c', 'c', 'd', 'e']);
            $more = $c->int(1, 3) - 1;
            $pages = [["Inspection of {$kind}", $this->paragraphs('inspection', $c->int(3, 6))]];
            for (; $more > 0; $more--) {
                $pages[] = ['Findings, continued', $this->paragraphs('inspection', $c->int(3, 6))];
            }
            if ($c->oneIn(5)) {
                $at = $c->int(0, count($pages) - 1);
                $pages[$at] = [$pages[$at][0], [...$pages[$at][1], Words::seepage($c)]];
            }
            array_unshift(
                $pages[0][1],
                "Structure {$structure}, ".
                    self::LABELS[$reach].
                    '. Inspected on '.
                    self::shown($date).
                    " by {$inspector}. Condition grade ".
                    strtoupper($grade).
                    '.',
            );
            $path = $this->file('waterways', 'inspections/'.substr($date, 0, 4)."/{$structure}-{$i}.pdf", 'lock_inspection', [
                'document_date' => $date,
                'structure' => $structure,
                'waterway' => $reach,
                'condition' => $grade,
                'inspector' => $inspector,
                'urgent' => $grade === 'e' ? 'yes' : 'no',
                'subject' => 'NAV.01',
                'weather' => $this->more->pick(['dry', 'dry', 'rain', 'frost', 'spate']),
                'asset_class' => str_starts_with($structure, 'LK') ? $this->more->pick(['A1.1.1', 'A1.1.1', 'A1.1.2']) : 'A2.1.1',
            ]);
            FileMaker::pdf($path, 'Tarnwick Canal & Harbour Trust  Structures office', $pages);
        }
        for ($i = 1; $i <= 130; $i++) {
            $reach = $c->pick(self::REACHES);
            $date = $c->date(2009, 2025);
            $depth = number_format($c->int(10, 240) / 100, 2);
            $by = $c->pick(Words::CONTRACTORS);
            $pages = [
                [
                    'Dredging survey: '.self::LABELS[$reach],
                    [
                        'Surveyed on '.self::shown($date)." by {$by} for the Tarnwick Canal & Harbour Trust.",
                        "The mean depth of silt is {$depth} m.",
                        ...$this->paragraphs('survey', $c->int(3, 5)),
                    ],
                ],
            ];
            for ($p = 1, $n = $c->int(1, 9); $p < $n; $p++) {
                $pages[] = ["Cross section {$p}", $this->paragraphs('survey', $c->int(2, 5))];
            }
            $known = ! $c->oneIn(6);
            $path = $this->file('waterways', "surveys/{$reach}-{$date}-{$i}.pdf", 'dredging_survey', [
                'document_date' => $date,
                'waterway' => $reach,
                'silt_depth' => $known ? $depth : '',
                'condition' => $c->pick(['a', 'b', 'c', 'd']),
                'contractor' => $by,
                'subject' => 'NAV.02.3',
            ]);
            FileMaker::pdf($path, $by, $pages);
        }
        for ($i = 1; $i <= 110; $i++) {
            $reach = $c->pick(self::REACHES);
            $date = $c->date(2011, 2025);
            $path = $this->file('waterways', "weed/weed-and-silt-{$i}.".($i % 2 === 0 ? 'txt' : 'docx'), 'weed_silt_report', [
                'document_date' => $date,
                'waterway' => $reach,
                'silt_depth' => number_format($c->int(5, 120) / 100, 2),
                'severity' => $c->pick(['minor', 'moderate', 'serious']),
                'inspector' => $c->pick(Words::PEOPLE),
                'subject' => 'NAV.02',
            ]);
            $text = ['Weed and silt report', self::LABELS[$reach].', '.self::shown($date), ...$this->paragraphs('survey', 3)];
            $i % 2 === 0 ? file_put_contents($path, implode("\n\n", $text)) : FileMaker::word($path, $text);
        }
        for ($i = 1; $i <= 120; $i++) {
            $structure = $this->structure();
            $reach = $this->structures[$structure][1];
            $date = $c->date(2014, 2025);
            $asMail = $i % 3 === 0;
            $path = $this->file('waterways', "notices/stoppage-{$i}.".($asMail ? 'eml' : 'md'), 'stoppage_notice', [
                'document_date' => $date,
                'waterway' => $reach,
                'structure' => $structure,
                'urgent' => $c->oneIn(4) ? 'yes' : 'no',
                'received_from' => $asMail ? 'Navigation desk' : '',
                'subject' => 'NAV.03',
            ]);
            $text =
                'The navigation is closed at '.
                $this->structures[$structure][0].
                " ({$structure}) from ".
                self::shown($date).
                ' until further notice. '.
                Words::paragraph($c, 'inspection', 2);
            if ($asMail) {
                $attachments = [];
                if ($c->oneIn(2)) {
                    $sketch = sys_get_temp_dir()."/closure-sketch-{$i}.pdf";
                    FileMaker::pdf($sketch, 'Navigation desk', [["Closure at {$structure}", $this->paragraphs('inspection', 2)]]);
                    $attachments[] = $sketch;
                }
                FileMaker::mail(
                    $path,
                    'Navigation desk <navigation@tarnwick.example>',
                    'All stations <stations@tarnwick.example>',
                    "Stoppage at {$structure}",
                    $date,
                    $text,
                    $attachments,
                    "stoppage-{$i}",
                    $this->firstNotice[$reach] ?? '',
                );
                $this->firstNotice[$reach] ??= "stoppage-{$i}";
                array_map(unlink(...), $attachments);
            } else {
                file_put_contents($path, "# Stoppage notice\n\n{$text}\n");
            }
        }
    }

    private function harbour(): void
    {
        $c = $this->chance;
        for ($i = 1; $i <= 270; $i++) {
            $vessel = $i % 30 === 7 ? 'Marigold Ash' : $c->pick(Words::VESSELS);
            $year = $i % 30 === 7 && $i < 100 ? 2023 : $c->int(2016, 2025);
            $date = sprintf('%d-%02d-%02d', $year, $c->int(1, 12), $c->int(1, 28));
            $permit = sprintf('MP-%d-%04d', $year, $i);
            $berth = $c->pick(Words::BERTHS);
            $holder = $c->pick(Words::PEOPLE);
            $until = $year + 1 .substr($date, 4);
            $fee = (string) $c->int(180, 2400);
            $path = $this->file('harbour', "permits/{$year}/{$permit}.pdf", 'mooring_permit', [
                'permit_number' => $permit,
                'vessel' => $vessel,
                'document_date' => $date,
                'berth' => $berth,
                'holder' => $holder,
                'valid_until' => $until,
                'amount' => $fee,
                'waterway' => $c->pick(['hb-inner', 'hb-outer', 'basin-lower']),
                'subject' => 'HAR.01',
            ]);
            FileMaker::pdf($path, 'Tarnwick Canal & Harbour Trust  Harbour office', [
                [
                    "Mooring permit {$permit}",
                    [
                        "The vessel {$vessel} may lie at berth {$berth} from ".self::shown($date).' to '.self::shown($until).'.',
                        "Permit holder: {$holder}. Fee paid: {$fee} pounds.",
                        ...$this->paragraphs('harbour', 2),
                    ],
                ],
            ]);
        }
        for ($i = 1; $i <= 70; $i++) {
            $date = $c->date(2018, 2025);
            $path = $this->file('harbour', "logs/passages-{$i}.csv", 'passage_log', [
                'document_date' => $date,
                'waterway' => $c->pick(['hb-inner', 'hb-outer', 'tarn-sea']),
                'author' => $c->pick(Words::PEOPLE),
                'draught' => number_format($this->more->int(9, 31) / 10, 1),
                'subject' => 'HAR.02',
            ]);
            $rows = "time,vessel,direction,draught\n";
            for ($r = 0, $n = $c->int(5, 30); $r < $n; $r++) {
                $rows .= sprintf(
                    "%02d:%02d,%s,%s,%.1f\n",
                    $c->int(4, 22),
                    $c->int(0, 59),
                    $c->pick(Words::VESSELS),
                    $c->pick(['in', 'out']),
                    $c->int(8, 31) / 10,
                );
            }
            file_put_contents($path, $rows);
        }
        for ($i = 1; $i <= 70; $i++) {
            $vessel = $c->pick(Words::VESSELS);
            $date = $c->date(2015, 2025);
            $path = $this->file('harbour', "pilotage/note-{$i}.txt", 'pilotage_note', [
                'document_date' => $date,
                'vessel' => $vessel,
                'author' => $c->pick(Words::PEOPLE),
                'waterway' => 'hb-outer',
                'subject' => 'HAR.02',
            ]);
            file_put_contents(
                $path,
                "Pilotage of {$vessel} on ".self::shown($date).".\n\n".implode("\n\n", $this->paragraphs('harbour', 2))."\n",
            );
        }
        for ($i = 1; $i <= 100; $i++) {
            $vessel = $c->pick(Words::VESSELS);
            $place = $c->pick(Words::PLACES);
            $date = $c->date(2013, 2025);
            $word = $i % 2 === 0;
            $path = $this->file('harbour', "incidents/incident-{$i}.".($word ? 'docx' : 'pdf'), 'incident_report', [
                'document_date' => $date,
                'vessel' => $vessel,
                'severity' => $c->pick(['minor', 'minor', 'moderate', 'serious', 'critical']),
                'place' => $place,
                'author' => $c->pick(Words::PEOPLE),
                'waterway' => $c->pick(['hb-inner', 'hb-outer']),
                'subject' => 'HAR.03',
            ]);
            $text = [
                'On '.self::shown($date)." the vessel {$vessel} was involved in an incident at {$place}.",
                ...$this->paragraphs('harbour', 4),
            ];
            $word
                ? FileMaker::word($path, ['Incident report', ...$text])
                : FileMaker::pdf($path, 'Harbour office', [['Incident report', $text]]);
        }
    }

    private function works(): void
    {
        $c = $this->chance;
        foreach (['tender' => 45, 'quotation' => 60, 'contract' => 45] as $type => $count) {
            for ($i = 1; $i <= $count; $i++) {
                $by = $c->pick(Words::CONTRACTORS);
                $date = $c->date(2014, 2025);
                $amount = (string) $c->int($type === 'quotation' ? 400 : 9_000, $type === 'quotation' ? 12_000 : 480_000);
                $structure = $this->structure();
                $values = ['contractor' => $by, 'document_date' => $date, 'amount' => $amount, 'subject' => 'WRK.01'];
                $values += match ($type) {
                    'tender' => ['structure' => $structure, 'waterway' => $this->structures[$structure][1]],
                    'contract' => [
                        'structure' => $structure,
                        'valid_until' => (int) substr($date, 0, 4) + 2 .substr($date, 4),
                        'works_period' => $this->period($date),
                        'supplier' => Suppliers::number($by),
                        'contact' => Suppliers::mail($by),
                    ],
                    default => ['waterway' => $c->pick(self::REACHES)],
                };
                $pages = [
                    [
                        ucfirst($type).": works at {$structure}",
                        [
                            "{$by}, ".self::shown($date).'. Total '.number_format((int) $amount).' pounds.',
                            ...$this->paragraphs('office', 4),
                        ],
                    ],
                ];
                for ($p = 1, $n = $type === 'tender' ? $c->int(8, 30) : $c->int(1, 4); $p < $n; $p++) {
                    $pages[] = ["Section {$p}", $this->paragraphs('office', $c->int(3, 7))];
                }
                FileMaker::pdf($this->file('works', "{$type}s/{$type}-{$i}.pdf", $type, $values), $by, $pages);
            }
        }
        for ($i = 1; $i <= 90; $i++) {
            $structure = $this->structure();
            $date = $c->date(2017, 2025);
            $path = $this->file('works', "diaries/diary-{$i}.md", 'site_diary', [
                'document_date' => $date,
                'structure' => $structure,
                'contractor' => $c->pick(Words::CONTRACTORS),
                'author' => $c->pick(Words::PEOPLE),
                'subject' => 'WRK.02',
            ]);
            file_put_contents(
                $path,
                "# Site diary, {$structure}\n\n".
                    self::shown($date).
                    "\n\n".
                    implode("\n\n", $this->paragraphs($c->oneIn(2) ? 'inspection' : 'office', 3)).
                    "\n",
            );
        }
        for ($i = 1; $i <= 40; $i++) {
            $structure = $this->structure();
            $by = $c->pick(Words::CONTRACTORS);
            $date = $c->date(2015, 2024);
            $scan = "{$this->folder}/scan.jpg";
            FileMaker::scan(
                $scan,
                [
                    'Completion certificate',
                    "Structure {$structure}",
                    "The works by {$by} were completed",
                    'on '.self::shown($date).' to the satisfaction of the engineer.',
                    $c->pick(Words::PEOPLE),
                ],
                $c,
            );
            FileMaker::imagePdf(
                $this->file('works', "certificates/certificate-{$i}.pdf", 'completion_certificate', [
                    'document_date' => $date,
                    'structure' => $structure,
                    'contractor' => $by,
                    'amount' => (string) $c->int(5_000, 90_000),
                    'subject' => 'WRK.02',
                ]),
                $scan,
            );
            unlink($scan);
        }
    }

    private function heritage(): void
    {
        $c = $this->chance;
        foreach (['plan' => 80, 'section' => 40, 'map_sheet' => 30] as $type => $count) {
            for ($i = 1; $i <= $count; $i++) {
                $place = $c->pick(Words::PLACES);
                $year = (string) $c->int(1791, 1968);
                $values = [
                    'place' => $place,
                    'document_date' => $c->oneIn(3) ? $year : $year.'-'.sprintf('%02d', $c->int(1, 12)),
                    'subject' => 'HER.01',
                ];
                $values +=
                    $type === 'map_sheet'
                        ? ['waterway' => $c->pick(self::REACHES)]
                        : ['author' => $c->pick(Words::PEOPLE), 'structure' => $c->oneIn(3) ? $this->structure() : ''];
                FileMaker::drawing(
                    $this->file('plans', "{$type}s/{$type}-{$i}.png", $type, $values),
                    [ucfirst(str_replace('_', ' ', $type)).' of '.$place, 'Tarnwick Canal '.$year, 'Scale of feet'],
                    $c,
                );
            }
        }
        for ($i = 1; $i <= 80; $i++) {
            $place = $c->pick(Words::PLACES);
            $vessel = $c->oneIn(2) ? $c->pick(Words::VESSELS) : null;
            $year = (string) $c->int(1885, 2015);
            FileMaker::photograph(
                $this->file('voices', "photographs/photo-{$i}.jpg", 'photograph', [
                    'place' => $place,
                    'document_date' => $year,
                    'author' => $c->pick(Words::PEOPLE),
                    'vessel' => $vessel ?? '',
                    'subject' => 'HER.02',
                ]),
                "{$place}, {$year}",
                $vessel,
                $c,
            );
        }
        for ($i = 1; $i <= 60; $i++) {
            $person = $c->pick(Words::PEOPLE);
            $year = (string) $c->int(1971, 2012);
            $path = $this->file('voices', "memories/tape-{$i}.".($i % 3 === 0 ? 'docx' : 'txt'), 'oral_history', [
                'author' => $person,
                'document_date' => $year,
                'place' => $c->pick(Words::PLACES),
                'language' => 'en',
                'subject' => 'HER.02',
            ]);
            $text = [
                "Tape {$i}. {$person} talks about life on the water. Recorded in {$year}.",
                ...$this->paragraphs('memory', $c->int(10, 40)),
            ];
            $i % 3 === 0 ? FileMaker::word($path, $text) : file_put_contents($path, implode("\n\n", $text));
        }
        for ($i = 1; $i <= 60; $i++) {
            $place = $c->pick(Words::PLACES);
            $year = (string) $c->int(1820, 1940);
            FileMaker::scan(
                $this->file('voices', "cards/card-{$i}.png", 'catalogue_card', [
                    'place' => $place,
                    'document_date' => $year,
                    'subject' => 'HER.02',
                ]),
                [$place, "Bundle {$i}, {$year}", 'Letters and accounts of the lock keeper.', Words::paragraph($c, 'memory', 1)],
                $c,
                900,
                420,
            );
        }
    }

    private function board(): void
    {
        $c = $this->chance;
        foreach (['minute' => 40, 'agenda_paper' => 30, 'byelaw' => 12, 'legal_advice' => 12] as $type => $count) {
            for ($i = 1; $i <= $count; $i++) {
                $date = $c->date(2015, 2025);
                $title = ucfirst(str_replace('_', ' ', $type));
                FileMaker::pdf(
                    $this->file('board', "{$type}s/{$type}-{$i}.pdf", $type, [
                        'document_date' => $date,
                        'confidentiality' => 'confidential',
                        'author' => $c->pick(Words::PEOPLE),
                        'subject' => $type === 'byelaw' ? 'GOV.02' : 'GOV.01',
                    ]),
                    'Board office. Confidential',
                    [[$title.', '.self::shown($date), $this->paragraphs('board', 5)]],
                );
            }
        }
    }

    /** What real collections have: doubles, damage, locks, nothing, names in other scripts. */
    private function mess(): void
    {
        $whole = "{$this->folder}/waterways/surveys";
        $some = glob("{$whole}/*.pdf") ?: [];
        copy(
            $some[3],
            $this->file('waterways', 'surveys/copy of survey.pdf', 'dredging_survey', [
                'document_date' => '2019-05-02',
                'waterway' => 'basin-lower',
            ]),
        );
        FileMaker::lock(
            $some[5],
            $this->file('works', 'contracts/sealed offer.pdf', 'contract', [
                'contractor' => 'Holm Masonry',
                'document_date' => '2021-06-01',
            ]),
        );
        file_put_contents(
            $this->file('works', 'contracts/water damaged.pdf', 'contract', [
                'contractor' => 'Holm Masonry',
                'document_date' => '2020-02-11',
            ]),
            substr((string) file_get_contents($some[7]), 0, 700),
        );
        file_put_contents(
            $this->file('harbour', 'incidents/empty report.pdf', 'incident_report', [
                'document_date' => '2018-08-08',
                'place' => 'Ferry Steps',
            ]),
            '',
        );
        file_put_contents(
            $this->file('voices', 'memories/записки смотрителя шлюза.txt', 'oral_history', [
                'author' => 'Osric Vane',
                'document_date' => '1979',
                'language' => 'en',
            ]),
            "Записки смотрителя шлюза. The keeper's notes, found in the toll house, mention a Café at the quay and the vessel Marigold Ash.\n",
        );
        file_put_contents(
            $this->file('waterways', 'weed/wrong date.txt', 'weed_silt_report', [
                'document_date' => '2091-01-01',
                'waterway' => 'res-mere',
                'silt_depth' => '0.2',
            ]),
            "Weed and silt report with a date that cannot be right.\n",
        );
        file_put_contents(
            $this->file('harbour', 'logs/instrument.dat', 'passage_log', ['document_date' => '2022-03-03']),
            implode('', array_map(fn (): string => chr($this->chance->int(0, 255)), range(0, 600)))."\0\1",
        );
    }
}
