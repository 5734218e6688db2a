<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Sru;

/** What a server says it can do: its `explain` record (ZeeRex 2.0), as far as asking it needs. */
final readonly class SruExplain
{
    private const DUBLIN_CORE = [
        'info:srw/schema/1/dc-v1.1',
        'http://purl.org/dc/elements/1.1/',
        'http://www.openarchives.org/OAI/2.0/oai_dc/',
    ];

    /**
     * @param  string  $title  its own name
     * @param  array<string, bool>  $indexes  name with its set, in small letters => whether records can be sorted by it; none when it does not say
     * @param  list<string>  $modifiers  the relation modifiers it knows, in small letters
     * @param  string  $schema  its short name for Dublin Core
     * @param  int  $most  records it gives at once
     */
    public function __construct(
        public string $title = '',
        public array $indexes = [],
        public array $modifiers = [],
        public string $schema = 'dc',
        public int $most = 50,
    ) {
    }

    /** @throws SruFault */
    public static function read(string $xml): self
    {
        $answer = SruXml::read($xml);
        $explain = $answer->root->localName === 'explain' ? $answer->root : $answer->first('record/recordData/explain');
        if ($explain === null) {
            throw new SruFault('It does not explain itself as an SRU server does.');
        }
        $indexes = [];
        foreach ($answer->all('indexInfo/index', $explain) as $index) {
            if ($index->getAttribute('search') === 'false') {
                continue;
            }
            foreach ($answer->all('map/name', $index) as $name) {
                $set = strtolower($name->getAttribute('set'));
                $indexes[($set === '' ? '' : "{$set}.").strtolower(trim($name->textContent))] = $index->getAttribute('sort') === 'true';
            }
        }
        $modifiers = [];
        foreach ($answer->all('configInfo/supports', $explain) as $supported) {
            if ($supported->getAttribute('type') === 'relationModifier') {
                $modifiers[] = strtolower(trim($supported->textContent));
            }
        }
        $schema = null;
        foreach ($answer->all('schemaInfo/schema', $explain) as $offered) {
            $schema ??= in_array($offered->getAttribute('identifier'), self::DUBLIN_CORE, true) ? $offered->getAttribute('name') : null;
        }
        $most = 50;
        foreach ($answer->all('configInfo/setting', $explain) as $setting) {
            if ($setting->getAttribute('type') === 'maximumRecords') {
                $most = max(1, min($most, (int) trim($setting->textContent)));
            }
        }

        return new self($answer->text('databaseInfo/title', $explain) ?? '', $indexes, $modifiers, $schema ?? 'dc', $most);
    }

    /** Whether it searches an index; one that lists none is asked and may refuse. */
    public function searches(string $index): bool
    {
        return $this->indexes === [] || isset($this->indexes[$index]);
    }

    public function sorts(string $index): bool
    {
        return $this->indexes[$index] ?? false;
    }

    public function modifies(string $modifier): bool
    {
        return in_array($modifier, $this->modifiers, true);
    }
}
