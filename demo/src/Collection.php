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

    /** For how papers look. */
    private readonly Chance $paper;

    private readonly Prose $prose;

    /** @var array<string, array<string, array<string, string>>> library => file => field => value */
    private array $values = [];

    /** @var array<string, array{string, string}> structure => kind in words and reach */
    private array $structures = [];

    /** @var array<string, array{string, string}> identifier and text of the first notice that went by mail, by reach */
    private array $firstNotice = [];

    public function __construct(private readonly string $folder)
    {
        $this->chance = new Chance(1793);
        $this->more = new Chance(1821);
        $this->paper = new Chance(1866);
        $this->prose = new Prose($this->chance, new Chance(1847));
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

    /**
     * Writes a form, one of some as a bad copy that a machine has read.
     *
     * @param  int<0, 4>  $arrangement
     * @param  list<array{non-empty-list<string>, string, 2?: bool}>  $particulars  see PaperForm
     * @param  list<array{string, list<string>}>  $pages
     */
    private function form(string $path, int $arrangement, string $head, string $opening, array $particulars, array $pages, string $signed): void
    {
        if ($this->paper->oneIn(9)) {
            $opening = $this->prose->misread($opening);
            $particulars = array_map(fn (array $of): array => [$of[0], $this->prose->misread($of[1]), $of[2] ?? false], $particulars);
            $pages = array_map(fn (array $page): array => [$page[0], array_map($this->prose->misread(...), $page[1])], $pages);
        }
        (new PaperForm($arrangement, $head, $opening, $particulars, $pages, $signed))->write($path);
    }

    /** @return int<0, 4> which of five forms somebody has */
    private static function formOf(string $name): int
    {
        return abs(crc32($name)) % 5;
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
            $paragraphs[] = $this->prose->paragraph($pool, $this->chance->int(2, 5));
        }

        return $paragraphs;
    }

    private function waterways(): void
    {
        $c = $this->chance;
        $before = [];
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
                $pages[$at] = [$pages[$at][0], [...$pages[$at][1], $this->prose->seepage()]];
            }
            $weather = $this->more->pick(['dry', 'dry', 'rain', 'frost', 'spate']);
            $class = str_starts_with($structure, 'LK') ? $this->more->pick(['A1.1.1', 'A1.1.1', 'A1.1.2']) : 'A2.1.1';
            $path = $this->file('waterways', 'inspections/'.substr($date, 0, 4)."/{$structure}-{$i}.pdf", 'lock_inspection', [
                'document_date' => $date,
                'structure' => $structure,
                'waterway' => $reach,
                'condition' => $grade,
                'inspector' => $inspector,
                'urgent' => $grade === 'e' ? 'yes' : 'no',
                'subject' => 'NAV.01',
                'weather' => $weather,
                'asset_class' => $class,
            ]);
            // The office had a new form every three years.
            $form = min(4, max(0, intdiv((int) substr($date, 0, 4) - 2012, 3)));
            if ($i % 32 === 0) {
                // Some had a form filled in from the one before, with a sentence changed.
                $pages[0][1] = $this->prose->redrafted($before, 'inspection');
            }
            $before = $pages[0][1];
            $pages[0][1][] = $this->prose->breach($reach, $date);
            $this->form(
                $path,
                $form,
                'Tarnwick Canal & Harbour Trust  Structures office',
                "Structure {$structure}, ".
                    self::LABELS[$reach].
                    '. Inspected on '.
                    self::shown($date).
                    " by {$inspector}. Condition grade ".
                    strtoupper($grade).
                    '.',
                [
                    [['Structure', 'Structure no.', 'Asset plate', 'Number on the plate', 'Our reference'], $structure, true],
                    [['Waterway', 'Waterway', 'Reach', 'Length', 'Water'], self::LABELS[$reach], true],
                    [['Inspected on', 'Date of inspection', 'Date', 'Visited', 'Day of visit'], PaperForm::date($date, $form), true],
                    [['Inspector', 'Inspected by', 'Officer', 'By', 'Inspector'], $inspector, true],
                    [['Condition grade', 'Grade', 'Overall condition', 'Grade given', 'Condition'], strtoupper($grade), true],
                    [['Weather', 'Weather', 'Conditions', 'Sky', 'Weather on the day'], $weather],
                    [['Asset class', 'Class', 'Class of asset', 'Asset class', 'Register'], $class],
                    [['Urgent'], $grade === 'e' ? 'yes' : 'no'],
                ],
                $pages,
                $inspector,
            );
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
                        ...$this->paragraphs('survey', $c->int(3, 5)),
                        $this->prose->breach($reach, $date),
                    ],
                ],
            ];
            for ($p = 1, $n = $c->int(1, 9); $p < $n; $p++) {
                $pages[] = ["Cross section {$p}", $this->paragraphs('survey', $c->int(2, 5))];
            }
            $known = ! $c->oneIn(6);
            $grade = $c->pick(['a', 'b', 'c', 'd']);
            $path = $this->file('waterways', "surveys/{$reach}-{$date}-{$i}.pdf", 'dredging_survey', [
                'document_date' => $date,
                'waterway' => $reach,
                'silt_depth' => $known ? $depth : '',
                'condition' => $grade,
                'contractor' => $by,
                'subject' => 'NAV.02.3',
            ]);
            $form = self::formOf($by);
            $this->form(
                $path,
                $form,
                "{$by}  Surveys of waterways",
                'Surveyed on '.self::shown($date)." by {$by} for the Tarnwick Canal & Harbour Trust. The mean depth of silt is {$depth} m.",
                [
                    [['Length', 'Waterway', 'Reach surveyed', 'Length', 'Water'], self::LABELS[$reach]],
                    [['Surveyed on', 'Date of survey', 'Surveyed', 'Field work', 'Date'], PaperForm::date($date, $form), true],
                    [['Mean silt', 'Mean depth of silt', 'Silt', 'Silt depth', 'Depth of silt'], "{$depth} m", true],
                    [['Channel', 'Condition', 'State of channel', 'Condition grade', 'Grade'], strtoupper($grade)],
                    [['Surveyor', 'Surveyor', 'Firm', 'For the surveyor', 'Firm'], $by, true],
                ],
                $pages,
                $this->paper->pick(Words::PEOPLE),
            );
        }
        for ($i = 1; $i <= 110; $i++) {
            $reach = $c->pick(self::REACHES);
            $date = $c->date(2011, 2025);
            $path = $this->file('waterways', "weed/weed-and-silt-{$i}.".($i % 2 === 0 ? 'txt' : 'docx'), 'weed_silt_report', [
                'document_date' => $date,
                'waterway' => $reach,
                'silt_depth' => $depth = number_format($c->int(5, 120) / 100, 2),
                'severity' => $severity = $c->pick(['minor', 'moderate', 'serious']),
                'inspector' => $inspector = $c->pick(Words::PEOPLE),
                'subject' => 'NAV.02',
            ]);
            $text = [
                'Weed and silt report',
                self::LABELS[$reach].', '.self::shown($date),
                ...array_filter([...$this->paragraphs('survey', 3), $this->prose->breach($reach, $date)]),
                "Silt found: {$depth} m. The growth of weed is {$severity}.",
                "Seen by {$inspector}",
            ];
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
                'urgent' => $urgent = $c->oneIn(4) ? 'yes' : 'no',
                'received_from' => $asMail ? 'Navigation desk' : '',
                'subject' => 'NAV.03',
            ]);
            $text =
                'The navigation is closed at '.
                $this->structures[$structure][0].
                " ({$structure}) from ".
                self::shown($date).
                " until further notice. Urgent: {$urgent}. ".
                $this->prose->paragraph('inspection', 2).
                rtrim(' '.$this->prose->breach($reach, $date));
            if ($asMail) {
                $attachments = [];
                if ($c->oneIn(2)) {
                    $sketch = sys_get_temp_dir()."/closure-sketch-{$i}.pdf";
                    FileMaker::pdf($sketch, 'Navigation desk', [["Closure at {$structure}", $this->paragraphs('inspection', 2)]]);
                    $attachments[] = $sketch;
                }
                [$first, $said] = $this->firstNotice[$reach] ?? ['', ''];
                FileMaker::mail(
                    $path,
                    'Navigation desk <navigation@tarnwick.example>',
                    'All stations <stations@tarnwick.example>',
                    ($first === '' ? '' : 'Re: ')."Stoppage at {$structure}",
                    $date,
                    $first === '' ? $text : "{$text}\n\nThe Navigation desk wrote:\n> ".wordwrap($said, 68, "\n> "),
                    $attachments,
                    "stoppage-{$i}",
                    $first,
                );
                $this->firstNotice[$reach] ??= ["stoppage-{$i}", $text];
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
            $water = $c->pick(['hb-inner', 'hb-outer', 'basin-lower']);
            $path = $this->file('harbour', "permits/{$year}/{$permit}.pdf", 'mooring_permit', [
                'permit_number' => $permit,
                'vessel' => $vessel,
                'document_date' => $date,
                'berth' => $berth,
                'holder' => $holder,
                'valid_until' => $until,
                'amount' => $fee,
                'waterway' => $water,
                'subject' => 'HAR.01',
            ]);
            $form = min(4, max(0, intdiv($year - 2016, 2)));
            $this->form(
                $path,
                $form,
                'Tarnwick Canal & Harbour Trust  Harbour office',
                "The vessel {$vessel} may lie at berth {$berth} from ".
                    self::shown($date).
                    ' to '.
                    self::shown($until).
                    ". Permit holder: {$holder}. Fee paid: {$fee} pounds.",
                [
                    [['Permit', 'Permit no.', 'Permit number', 'Number', 'Permit'], $permit],
                    [['Vessel', 'Vessel', 'Name of vessel', 'Craft', 'Vessel'], $vessel, true],
                    [['Berth', 'Berth', 'Berth', 'Place at quay', 'Berth given'], $berth, true],
                    [['Water', 'Waterway', 'Basin', 'Water', 'Where'], self::LABELS[$water]],
                    [['From', 'Issued', 'From', 'Date of issue', 'Begins'], PaperForm::date($date, $form), true],
                    [['To', 'Valid until', 'To', 'Expires', 'Ends'], PaperForm::date($until, $form), true],
                    [['Holder', 'Holder', 'Permit holder', 'Owner or master', 'Granted to'], $holder, true],
                    [['Fee', 'Fee', 'Fee paid', 'Dues', 'Paid'], PaperForm::sum($fee, $form), true],
                ],
                [["Mooring permit {$permit}", $this->paragraphs('harbour', 2)]],
                $this->paper->pick(Words::PEOPLE),
            );
        }
        for ($i = 1; $i <= 70; $i++) {
            $date = $c->date(2018, 2025);
            $path = $this->file('harbour', "logs/passages-{$i}.csv", 'passage_log', [
                'document_date' => $date,
                'waterway' => $water = $c->pick(['hb-inner', 'hb-outer', 'tarn-sea']),
                'author' => $keeper = $c->pick(Words::PEOPLE),
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
            file_put_contents($path, $rows.'kept at '.self::LABELS[$water].' on '.self::shown($date)." by {$keeper}\n");
        }
        for ($i = 1; $i <= 70; $i++) {
            $vessel = $c->pick(Words::VESSELS);
            $date = $c->date(2015, 2025);
            $pilot = $c->pick(Words::PEOPLE);
            $path = $this->file('harbour', "pilotage/note-{$i}.txt", 'pilotage_note', [
                'document_date' => $date,
                'vessel' => $vessel,
                'author' => $pilot,
                'waterway' => 'hb-outer',
                'subject' => 'HAR.02',
            ]);
            $text = $this->paragraphs('harbour', 2);
            // Masters from abroad write in their own language.
            [$head, $text] = match ($i % 10) {
                3 => ["Lotsenbericht {$vessel}, ".PaperForm::date($date, 3), [$this->prose->foreign('de', 4), $this->prose->foreign('de', 3)]],
                8 => ["Pilotage du navire {$vessel}, ".PaperForm::date($date, 2), [$this->prose->foreign('fr', 4), $this->prose->foreign('fr', 3)]],
                default => ["Pilotage of {$vessel} on ".self::shown($date), $text],
            };
            file_put_contents($path, "{$head}.\n\n".implode("\n\n", $text)."\n\n{$pilot}\n");
        }
        for ($i = 1; $i <= 100; $i++) {
            $vessel = $c->pick(Words::VESSELS);
            $place = $c->pick(Words::PLACES);
            $date = $c->date(2013, 2025);
            $word = $i % 2 === 0;
            $severity = $c->pick(['minor', 'minor', 'moderate', 'serious', 'critical']);
            $author = $c->pick(Words::PEOPLE);
            $water = $c->pick(['hb-inner', 'hb-outer']);
            $path = $this->file('harbour', "incidents/incident-{$i}.".($word ? 'docx' : 'pdf'), 'incident_report', [
                'document_date' => $date,
                'vessel' => $vessel,
                'severity' => $severity,
                'place' => $place,
                'author' => $author,
                'waterway' => $water,
                'subject' => 'HAR.03',
            ]);
            $opening = 'On '.self::shown($date)." the vessel {$vessel} was involved in an incident at {$place}.";
            $text = $this->paragraphs('harbour', 4);
            $form = self::formOf($author);
            $word
                ? FileMaker::word($path, [
                    'Incident report',
                    $opening,
                    ...$text,
                    "Severity: {$severity}. ".self::LABELS[$water].'.',
                    "Reported by {$author}.",
                ])
                : $this->form(
                    $path,
                    $form,
                    'Tarnwick Canal & Harbour Trust  Harbour office',
                    $opening,
                    [
                        [['Date', 'Date of incident', 'When', 'Happened on', 'On'], PaperForm::date($date, $form), true],
                        [['Vessel', 'Vessel', 'Vessel or craft', 'Name of vessel', 'Vessel'], $vessel, true],
                        [['Place', 'Place', 'Where', 'Happened at', 'At'], $place, true],
                        [['Water', 'Water', 'Basin', 'Waterway', 'Water'], self::LABELS[$water]],
                        [['Severity', 'Severity', 'How serious', 'Severity', 'Judged'], $severity],
                        [['Reported by', 'Reported by', 'Report of', 'Officer', 'From'], $author],
                    ],
                    [['Incident report', $text]],
                    $author,
                );
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
                $pages = [[ucfirst($type).": works at {$structure}", $this->paragraphs('office', 4)]];
                for ($p = 1, $n = $type === 'tender' ? $c->int(8, 30) : $c->int(1, 4); $p < $n; $p++) {
                    $pages[] = ["Section {$p}", $this->paragraphs('office', $c->int(3, 7))];
                }
                $form = self::formOf($by);
                $this->form(
                    $this->file('works', "{$type}s/{$type}-{$i}.pdf", $type, $values),
                    $form,
                    "{$by}  Registered office, Tarnwick",
                    "{$by}, ".self::shown($date).'. Total '.number_format((int) $amount).' pounds.',
                    self::offered($structure, $values, $form),
                    $pages,
                    $this->paper->pick(Words::PEOPLE),
                );
            }
        }
        $before = [];
        for ($i = 1; $i <= 90; $i++) {
            $structure = $this->structure();
            $date = $c->date(2017, 2025);
            $by = $c->pick(Words::CONTRACTORS);
            $author = $c->pick(Words::PEOPLE);
            $path = $this->file('works', "diaries/diary-{$i}.md", 'site_diary', [
                'document_date' => $date,
                'structure' => $structure,
                'contractor' => $by,
                'author' => $author,
                'subject' => 'WRK.02',
            ]);
            $text = $this->paragraphs($c->oneIn(2) ? 'inspection' : 'office', 3);
            if ($i % 9 === 0) {
                // Nothing much happened: the page of the day before was taken.
                $text = $this->prose->redrafted($before, 'office');
            }
            $before = $text;
            $text = array_filter([...$text, $this->prose->breach($this->structures[$structure][1], $date)]);
            file_put_contents(
                $path,
                "# Site diary, {$structure}\n\n".self::shown($date)."\n\n".implode("\n\n", $text)."\n\nOn site: {$by}. Kept by {$author}.\n",
            );
        }
        for ($i = 1; $i <= 40; $i++) {
            $structure = $this->structure();
            $by = $c->pick(Words::CONTRACTORS);
            $date = $c->date(2015, 2024);
            $scan = "{$this->folder}/scan.jpg";
            $engineer = $c->pick(Words::PEOPLE);
            $form = self::formOf($by);
            $day = PaperForm::date($date, $form);
            FileMaker::scan(
                $scan,
                match ($form) {
                    0 => [
                        'Completion certificate',
                        "Structure {$structure}",
                        "The works by {$by} were completed",
                        "on {$day} to the satisfaction of the engineer.",
                        $engineer,
                    ],
                    1 => ['Completion certificate', "Contractor: {$by}", "Structure: {$structure}", "Completed on: {$day}", "Engineer: {$engineer}"],
                    2 => [$by, 'Certificate of completion', "Asset {$structure}", "Works finished {$day}", "Passed by {$engineer}"],
                    3 => ['Tarnwick Canal & Harbour Trust', 'Completion certificate', "{$day}", "Works at {$structure}", "by {$by}", "signed {$engineer}"],
                    4 => ["{$structure}: works complete", "Date {$day}", "Carried out by {$by}", "Seen and found good, {$engineer}"],
                },
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

    /**
     * What tenders, quotations and contracts say.
     *
     * @param  array<string, string>  $values
     * @param  int<0, 4>  $form
     * @return list<array{non-empty-list<string>, string, 2?: bool}>
     */
    private static function offered(string $structure, array $values, int $form): array
    {
        $date = static fn (string $day): string => PaperForm::date($day, $form);
        $offered = [
            [['Date', 'Date', 'Dated', 'Dated', 'Our letter of'], $date($values['document_date']), true],
            [['Total', 'Total price', 'Sum', 'In all', 'Total'], PaperForm::sum($values['amount'], $form), true],
            [['From', 'Contractor', 'Firm', 'Contractor', 'From'], $values['contractor'], true],
            [['Structure', 'Structure', 'Structure', 'Asset', 'Works at'], $structure],
        ];
        if (isset($values['waterway'])) {
            $offered[] = [['Waterway', 'Waterway', 'Reach', 'Waterway', 'Water'], self::LABELS[$values['waterway']]];
        }
        if (isset($values['works_period'])) {
            array_push(
                $offered,
                [['Supplier', 'Supplier no.', 'Supplier', 'Our number', 'Supplier'], $values['supplier']],
                [['Contact', 'Contact', 'Write to', 'Contact', 'Office'], $values['contact']],
                [
                    ['On site', 'Period of works', 'On site', 'Works', 'Programme'],
                    implode(' to ', array_map($date, explode('/', $values['works_period']))),
                ],
                [['Ends', 'Valid until', 'Expires', 'Ends', 'Valid until'], $date($values['valid_until'])],
            );
        }

        return $offered;
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
                $drawn = isset($values['author']) ? "drawn by {$values['author']}" : 'Scale of feet';
                FileMaker::drawing(
                    $this->file('plans', "{$type}s/{$type}-{$i}.png", $type, $values),
                    [ucfirst(str_replace('_', ' ', $type)).' of '.$place, 'Tarnwick Canal '.$values['document_date'], $drawn],
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
                    'author' => $by = $c->pick(Words::PEOPLE),
                    'vessel' => $vessel ?? '',
                    'subject' => 'HER.02',
                ]),
                "{$place}, {$year}. Photograph: {$by}",
                $vessel,
                $c,
            );
        }
        for ($i = 1; $i <= 60; $i++) {
            $person = $c->pick(Words::PEOPLE);
            $year = (string) $c->int(1971, 2012);
            $place = $c->pick(Words::PLACES);
            $path = $this->file('voices', "memories/tape-{$i}.".($i % 3 === 0 ? 'docx' : 'txt'), 'oral_history', [
                'author' => $person,
                'document_date' => $year,
                'place' => $place,
                'language' => 'en',
                'subject' => 'HER.02',
            ]);
            $text = [
                "Tape {$i}. {$person} talks about life on the water at {$place}. Recorded in {$year}.",
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
                match ($i % 5) {
                    0 => [$place, "Bundle {$i}, {$year}", 'Letters and accounts of the lock keeper.', $this->prose->paragraph('memory', 1)],
                    1 => ["{$year}   {$place}", "Box {$i}", 'Wages books and receipts.', $this->prose->paragraph('memory', 1)],
                    2 => ['Card index', "Place: {$place}", "Year: {$year}", $this->prose->paragraph('memory', 1)],
                    3 => ["{$i}. {$place}", 'Drawings and letters of the company,', "dated {$year}", $this->prose->paragraph('memory', 1)],
                    4 => [$place, $this->prose->paragraph('memory', 1), "({$year}, shelf {$i})"],
                },
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
            $before = [];
            for ($i = 1; $i <= $count; $i++) {
                $date = $c->date(2015, 2025);
                $title = ucfirst(str_replace('_', ' ', $type));
                $author = $c->pick(Words::PEOPLE);
                $path = $this->file('board', "{$type}s/{$type}-{$i}.pdf", $type, [
                    'document_date' => $date,
                    'confidentiality' => 'confidential',
                    'author' => $author,
                    'subject' => $type === 'byelaw' ? 'GOV.02' : 'GOV.01',
                ]);
                $text = $this->paragraphs('board', 5);
                if ($i % 4 === 0) {
                    // A later draft of the paper before.
                    $text = $this->prose->redrafted($before, 'board');
                }
                $before = $text;
                if (in_array($type, ['minute', 'legal_advice'], true)) {
                    // The board spoke of it for years.
                    $text = array_filter([...$text, $this->prose->breach('tarn-aq', $date)]);
                }
                FileMaker::pdf($path, 'Board office. Confidential', [[$title.', '.self::shown($date), [...$text, "Paper of {$author}."]]]);
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
