<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Sorting\SortedDocument;
use App\Sorting\SortedPage;
use Brenvic\Core\Pages\SeparatorCode;
use Illuminate\Foundation\Http\FormRequest;

/** Which waiting documents are worked on, and what is to come of their pages. */
final class SortingInput extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'sources' => 'required|array|min:1|max:100',
            'sources.*' => 'string|max:40|distinct',
            'documents' => 'required|array|min:1|max:1000',
            'documents.*.pages' => 'required|array|min:1|max:5000',
            'documents.*.pages.*.source' => 'required|string|max:40',
            'documents.*.pages.*.page' => 'required|integer|min:1',
            'documents.*.pages.*.turn' => 'required|integer',
            'documents.*.pages.*.straightened' => 'required|boolean',
            'documents.*.pages.*.left_out' => 'required|boolean',
            'documents.*.library' => 'nullable|string|max:60',
            'documents.*.type' => 'nullable|string|max:60',
            'documents.*.dossier' => 'nullable|string|max:40',
        ];
    }

    /** @return list<string> references */
    public function sources(): array
    {
        return array_values(array_map(strval(...), $this->validated('sources')));
    }

    /** @return list<SortedDocument> */
    public function wanted(): array
    {
        $wanted = [];
        foreach ($this->validated('documents') as $given) {
            $pages = [];
            foreach ($given['pages'] as $page) {
                $pages[] = new SortedPage(
                    (string) $page['source'],
                    (int) $page['page'],
                    (int) $page['turn'],
                    (bool) $page['straightened'],
                    (bool) $page['left_out'],
                );
            }
            if ($pages !== []) {
                $known = new SeparatorCode($given['library'] ?? null, $given['type'] ?? null, $given['dossier'] ?? null);
                $wanted[] = new SortedDocument($pages, $known);
            }
        }

        return $wanted;
    }
}
