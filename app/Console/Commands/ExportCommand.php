<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\PlainCommand;
use App\Models\Delivery;
use App\Models\DeliveryForm;
use App\Models\PullList;
use App\Models\User;
use App\Retrieve\Deliver;
use App\Retrieve\DeliveryFormats;
use App\Retrieve\DeliveryMaker;
use App\Retrieve\PullLists;
use App\Support\Refused;
use Brenvic\Core\Query\SyntaxError;
use Brenvic\Core\Search\Asking\KeptSearch;
use Brenvic\Core\Search\Asking\SearchError;
use Illuminate\Support\Facades\File;
use ZipArchive;

final class ExportCommand extends PlainCommand
{
    protected $signature = 'brenvic:export {query : CQL, or plain words}
        {--to= : folder the export is put into; made when it is not there}
        {--format=bag : bag, csv or zip}
        {--as=librarian : sign-in name of the person who takes the documents away}
        {--form=plain : how the files leave: plain, annotated, redacted or both}
        {--json : the result as JSON}';

    protected $description = 'Takes away what a search finds, as a delivery that is recorded: a bag or a CSV in the folder, or a ZIP of the files';

    public function handle(PullLists $lists, DeliveryMaker $maker): int
    {
        $user = User::query()->where('sign_in', $this->option('as'))->first();
        $form = DeliveryForm::tryFrom((string) $this->option('form'));
        $folder = (string) $this->option('to');
        $fault = match (true) {
            $user === null => "There is nobody with the sign-in name “{$this->option('as')}”.",
            $form === null => '--form is one of '.implode(', ', array_column(DeliveryForm::cases(), 'value')).'.',
            ! in_array($this->option('format'), ['bag', 'csv', 'zip'], true) => '--format is bag, csv or zip.',
            $folder === '' => 'Name a folder with --to=DIR.',
            is_dir($folder) && ! File::isEmptyDirectory($folder) => "“{$folder}” is not empty. Nothing was exported.",
            default => null,
        };
        if ($fault !== null) {
            $this->error($fault);

            return self::FAILURE;
        }
        $query = (string) $this->argument('query');
        $search = new KeptSearch($query);
        $list = PullList::query()->create(['user_id' => $user->id, 'name' => 'Export', 'note' => $query, 'search' => $search]);
        try {
            if ($lists->addSearch($user, $list, $search) === 0) {
                throw new Refused('The search finds nothing. Nothing was exported.');
            }
            $delivery = Delivery::query()->create([
                'pull_list_id' => $list->id,
                'user_id' => $user->id,
                'name' => $list->name,
                'format' => $this->option('format'),
                'settings' => ['names' => '{reference} {file}', 'form' => $form->value],
            ]);
            (new Deliver($delivery->id))->handle($maker);
            $delivery->refresh();
            if ($delivery->state !== Delivery::DONE) {
                throw new Refused($delivery->message);
            }
            $this->put($delivery, $folder);
        } catch (SyntaxError|SearchError|Refused $fault) {
            $this->error($fault->getMessage());

            return self::FAILURE;
        } finally {
            // The delivery stays on record; the list was only the way to it.
            $list->delete();
        }
        $left = $delivery->items()->where('remark', '!=', '')->count();
        if ($this->isForPrograms()) {
            $this->json([
                'documents' => $delivery->total,
                'format' => $delivery->format,
                'to' => $folder,
                'remarks' => $left,
                'delivery' => $delivery->id,
            ]);

            return self::SUCCESS;
        }
        $this->info("{$delivery->total} documents as {$delivery->format} to {$folder}.".($left > 0 ? " {$left} have a remark." : ''));

        return self::SUCCESS;
    }

    private function put(Delivery $delivery, string $folder): void
    {
        File::ensureDirectoryExists($folder);
        $file = Delivery::folder()."/{$delivery->file}";
        $format = DeliveryFormats::of($delivery);
        if (! $format->hasRecords()) {
            File::copy($file, "{$folder}/".DeliveryMaker::name($delivery).".{$format->ending}") ||
                throw new Refused('The export could not be written; is the disk full?');

            return;
        }
        $zip = new ZipArchive();
        ($zip->open($file) === true && $zip->extractTo($folder)) || throw new Refused('The bag could not be written; is the disk full?');
    }
}
