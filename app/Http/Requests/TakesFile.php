<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Http\UploadedFile;
use Illuminate\Validation\Validator;

/** What requests that bring a file have alike. The framework's own rule refuses empty files, which are kept here. */
trait TakesFile
{
    private function checkFile(Validator $validator): void
    {
        $file = $this->file('file');
        $limit = (int) config('brenvic.limits.file_bytes');
        $megabytes = intdiv($limit, 1024 * 1024);
        if (! ($file instanceof UploadedFile)) {
            $validator->errors()->add('file', "No file arrived. A file may have up to {$megabytes} MB.");
        } elseif ($file->getError() === UPLOAD_ERR_INI_SIZE || $file->getError() === UPLOAD_ERR_FORM_SIZE || $file->getSize() > $limit) {
            $validator->errors()->add('file', "“{$file->getClientOriginalName()}” is larger than {$megabytes} MB and was not stored.");
        } elseif (! $file->isValid()) {
            $validator->errors()->add('file', "“{$file->getClientOriginalName()}” did not arrive whole and was not stored. Try it again.");
        }
    }
}
