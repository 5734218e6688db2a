<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Catalog\Catalog;
use App\Models\Delivery;
use Brenvic\Core\Exchange\Bag;
use Brenvic\Core\Exchange\TableDescription;
use Brenvic\Core\Query\Printer;
use Illuminate\Support\Carbon;

/** BagIt (RFC 8493), for proof. */
final class BagFormat extends DeliveryFormat
{
    /** The history of the documents, within the bag. */
    public const HISTORY = 'metadata/history.jsonl';

    public function __construct(private readonly Catalog $catalog)
    {
        parent::__construct('bag', 'Bag', 'BagIt: files with checksums, Dublin Core, index values, query and history, for proof.', 'zip');
    }

    public function hasTable(): bool
    {
        return true;
    }

    public function levels(): string
    {
        return 'Folders';
    }

    public function hasRecords(): bool
    {
        return true;
    }

    public function pack(Delivery $delivery, DeliveryFolder $folder, Packing $packing): string
    {
        $folder->ended(self::HISTORY);
        $folder->tag('bagit.txt', Bag::DECLARATION);
        $folder->tag(
            'bag-info.txt',
            Bag::info($folder->bytes, $folder->files, Carbon::now()->toDateTimeImmutable(), [
                'Source-Organization' => (string) config('brenvic.organisation'),
                'Contact-Name' => $delivery->user->name,
                'External-Identifier' => "brenvic-delivery-{$delivery->id}",
                'External-Description' => $delivery->list->name.($delivery->list->note === '' ? '' : "\n{$delivery->list->note}"),
                'Bag-Software-Agent' => 'Brenvic',
            ]),
        );
        $folder->tag(
            DeliveryTable::PATH.'-metadata.json',
            TableDescription::json(
                basename(DeliveryTable::PATH),
                DeliveryTable::OWN,
                $packing->fields,
                DeliveryTable::isLabelledAtAll($delivery),
            ),
        );
        $search = $delivery->list->search;
        $folder->tag(
            'metadata/query.cql',
            $search === null ? '' : Printer::node($search->read($this->catalog->schema($delivery->user))->ledger()->tree())."\n",
        );
        $folder->seal();

        return $folder->zipped(DeliveryMaker::name($delivery), "{$packing->place}/bag.zip");
    }
}
