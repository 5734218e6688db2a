<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * One index value of a document, in its normal form.
 *
 * @property int $document_id
 * @property int $field_id
 * @property int $position
 * @property string $value
 */
final class DocumentValue extends Model
{
    public $timestamps = false;

    protected $guarded = [];

    public $incrementing = false;

    protected $primaryKey = null;
}
