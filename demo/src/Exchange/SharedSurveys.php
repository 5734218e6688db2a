<?php

declare(strict_types=1);

namespace Demo\Exchange;

use Demo\Chance;
use Demo\Prose;
use Demo\Words;

/** What the Survey Exchange holds: invented, and the same on every run. */
final class SharedSurveys
{
    private const COUNT = 180;

    private const OWNERS = [
        'Wend Navigation Company',
        'Skerrow Water Board',
        'Port of Lorneholm',
        'Hallow Catchment Trust',
        'Ullen and Brae Drainage District',
    ];

    /** Neighbouring waters, and those that are shared with the Trust. */
    private const WATERS = [
        'Lower Wend',
        'Upper Wend',
        'Skerrow reservoir',
        'Lorneholm approaches',
        'Ullen cut',
        'Brae Water',
        'Summit pound',
        'Hallow Water',
        'Hallow feeder',
        'Lower basin',
        'Harbour bar',
        'Outer harbour',
        'Cray cutting',
        'Brinmere',
    ];

    private const KINDS = [
        ['Dredging survey', 'Survey'],
        ['Silt and bed survey', 'Survey'],
        ['Bank and embankment survey', 'Survey'],
        ['Sounding chart', 'Chart'],
        ['Approach chart', 'Chart'],
        ['Condition survey of structures', 'Survey'],
    ];

    private const REMARKS = [
        'The bed lies between 0.4 and 1.1 metres below the design level.',
        'A wreck marked on the chart of the year before was not found.',
        'Reeds reach five metres into the channel on the offside.',
        'The level was held one hand below the weir for the two days of the survey.',
        'Echo sounding was checked by lead line at every tenth station.',
        'Seepage at the toe of the bank was photographed and pegged.',
        'The neighbouring authority took part and holds the field books.',
        'Depths are given at mean low water of springs.',
        'The sill of the lock was sounded from both gates.',
        'Bed samples smelt of oil below the outfall.',
        'Two mooring rings on the quay are loose.',
        'The fairway is buoyed on its western side only.',
    ];

    /** @return array<string, SharedSurvey> by number */
    public static function all(): array
    {
        $chance = new Chance(7_204);
        $prose = new Prose($chance, new Chance(7_205));
        $surveys = [];
        for ($i = 1; $i <= self::COUNT; $i++) {
            [$kind, $type] = $chance->pick(self::KINDS);
            $water = $chance->pick(self::WATERS);
            $owner = $chance->pick(self::OWNERS);
            $date = $chance->date(1998, 2025);
            $number = sprintf('SX-%05d', $i);
            $paragraphs = [];
            for ($p = $chance->int(2, 5); $p > 0; $p--) {
                $paragraphs[] = $prose->paragraph('survey', $chance->int(2, 4)).' '.$chance->pick(self::REMARKS);
            }
            $surveys[$number] = new SharedSurvey(
                $number,
                [
                    'title' => ["{$kind}, {$water}, ".substr($date, 0, 4)],
                    'creator' => [$chance->pick(Words::PEOPLE)],
                    'publisher' => [$owner],
                    'date' => [$date],
                    'type' => [$type],
                    'coverage' => [$water],
                    'subject' => $type === 'Chart'
                            ? ['Hydrographic charts']
                            : ['Surveys', $chance->pick(['Silt', 'Dredging', 'Banks', 'Structures'])],
                    'description' => [$paragraphs[0]],
                    'format' => ['application/pdf'],
                    'language' => ['en'],
                    'identifier' => [$number, SurveyExchange::HOME."/documents/{$number}.pdf"],
                    'rights' => ["Shared by {$owner} for use on the water"],
                ],
                $paragraphs,
            );
        }

        return $surveys;
    }
}
