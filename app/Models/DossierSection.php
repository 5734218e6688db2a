<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A part of a dossier.
 *
 * @property int $id
 * @property int $dossier_id
 * @property string $name
 * @property int $position
 */
final class DossierSection extends Model
{
    protected $table = 'dossier_sections';

    public $timestamps = false;

    protected $guarded = [];
}
