<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Escl;

use Brenvic\Core\Xml\InvalidXml;
use DOMElement;

/** What a network scanner can do, as it says itself (eSCL, ScannerCapabilities). */
final readonly class ScannerCapabilities
{
    /** Dots an inch that are offered, as far as the scanner has them. */
    private const USUAL = [100, 150, 200, 300, 400, 600];

    /**
     * @param  list<int>  $resolutions  dots an inch
     * @param  bool  $hasFeeder  whether it takes stacks
     * @param  bool  $hasDuplex  whether it takes both sides of them
     * @param  int  $width  of its feeder, or of its glass, in three-hundredths of an inch
     * @param  int  $height  likewise
     */
    public function __construct(
        public string $version,
        public string $model,
        public array $resolutions,
        public bool $hasColour,
        public bool $hasGlass,
        public bool $hasFeeder,
        public bool $hasDuplex,
        public int $width,
        public int $height,
    ) {
    }

    /** @throws InvalidXml */
    public static function read(string $xml): self
    {
        $root = EsclXml::root($xml);
        if ($root->localName !== 'ScannerCapabilities') {
            throw new InvalidXml(false);
        }
        $feeder = EsclXml::first($root, 'Adf');
        $glass = EsclXml::first($root, 'Platen');
        $duplex = EsclXml::first($root, 'AdfDuplexInputCaps');
        $caps = EsclXml::first($feeder ?? $root, 'AdfSimplexInputCaps') ?? EsclXml::first($glass ?? $root, 'PlatenInputCaps') ?? $root;

        return new self(
            EsclXml::text($root, 'Version') ?: '2.0',
            EsclXml::text($root, 'MakeAndModel'),
            self::resolutions($caps),
            array_filter(EsclXml::texts($caps, 'ColorMode'), static fn (string $mode): bool => str_starts_with($mode, 'RGB')) !== [],
            $glass !== null,
            $feeder !== null,
            $duplex !== null,
            (int) EsclXml::text($caps, 'MaxWidth'),
            (int) EsclXml::text($caps, 'MaxHeight'),
        );
    }

    /** @return list<int> discrete ones, or of a range those that are usual */
    private static function resolutions(DOMElement $caps): array
    {
        $found = array_map(intval(...), EsclXml::texts($caps, 'XResolution'));
        $range = EsclXml::first($caps, 'XResolutionRange');
        if ($range !== null) {
            [$least, $most] = [(int) EsclXml::text($range, 'Min'), (int) EsclXml::text($range, 'Max')];
            $found = [...$found, ...array_filter(self::USUAL, static fn (int $dots): bool => $dots >= $least && $dots <= $most)];
        }
        $found = array_values(array_unique(array_filter($found, static fn (int $dots): bool => $dots > 0)));
        sort($found);

        return $found;
    }
}
