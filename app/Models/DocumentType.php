<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * The number and name of a document type. What it asks for stands in the design.
 *
 * @property int $id
 * @property string $code
 * @property string $name
 */
final class DocumentType extends Model
{
    protected $table = 'document_types';

    public $timestamps = false;

    protected $guarded = [];
}
