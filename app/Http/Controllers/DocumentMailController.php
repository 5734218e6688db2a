<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Rights;
use App\Http\Requests\MailInput;
use App\Models\DeliveryForm;
use App\Models\Document;
use App\Models\User;
use App\Retrieve\DocumentMail;
use App\Support\Refused;
use Illuminate\Http\JsonResponse;

/** Mails the open document, or those that were selected, in one step. */
final readonly class DocumentMailController
{
    public function __invoke(MailInput $input, Rights $rights, DocumentMail $mail): JsonResponse
    {
        $user = User::of($input);
        $refs = array_values(array_unique(array_map(strval(...), $input->validated('documents'))));
        $found = Document::query()
            ->whereIn('ref', $refs)
            ->get()
            ->keyBy('ref');
        $seen = $rights->seen($user, array_values($found->map(static fn (Document $d): int => $d->id)->all()));
        $documents = [];
        foreach ($refs as $ref) {
            $document = $found->get($ref);
            if ($document === null || ! in_array($document->id, $seen, true)) {
                throw new Refused('One of these documents does not exist, or you may not see it. Nothing was sent.');
            }
            $documents[] = $document;
        }
        if ($documents === []) {
            throw new Refused('Choose a document to send.');
        }
        $form = DeliveryForm::tryFrom((string) $input->validated('form')) ?? DeliveryForm::AsItIs;
        [$to, $subject, $text] = [$input->string('to')->value(), $input->string('subject')->value(), $input->string('text')->value()];
        if ($input->validated('how') === 'links') {
            $mail->links($user, $documents, $form, $to, $subject, $text);

            return new JsonResponse(['delivery' => null], 201);
        }

        return new JsonResponse(['delivery' => $mail->copies($user, $documents, $form, $to, $subject, $text)->id], 201);
    }
}
