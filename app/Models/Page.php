<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * One page of a document's text layer.
 *
 * @property int $document_id
 * @property int $number
 * @property float $width
 * @property float $height
 * @property string $text
 * @property string|null $boxes
 */
final class Page extends Model
{
    protected $table = 'pages';

    public $timestamps = false;

    protected $guarded = [];

    public $incrementing = false;

    protected $primaryKey = null;
}
