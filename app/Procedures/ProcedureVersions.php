<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Catalog\Catalog;
use App\Models\ProcedureCase;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\ProcedurePart;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

/** Procedures as they were when cases began in them. A case goes on in the version it began in, unless somebody moves it. */
final class ProcedureVersions
{
    /** @var array<int, ProcedurePart> by id */
    private array $read = [];

    public function __construct(private readonly Catalog $catalog)
    {
    }

    /** The number of the published procedure as it is now; null where there is none. */
    public function present(string $code): ?int
    {
        $content = $this->catalog->design()->part(DesignKind::Procedure, $code);

        return $content === null ? null : self::keep($code, $content);
    }

    /**
     * @param  array<string, mixed>  $content
     * @return int its number
     */
    public static function keep(string $code, array $content): int
    {
        $json = json_encode($content, JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_THROW_ON_ERROR);
        $of = ['code' => $code, 'hash' => hash('sha256', $json)];
        $id = DB::table('procedure_versions')->where($of)->value('id');

        return (int) ($id ?? DB::table('procedure_versions')->insertGetId([...$of, 'content' => $json, 'at' => now()]));
    }

    /** The procedure of a case, as the case began in it. */
    public function of(ProcedureCase $case): ProcedurePart
    {
        return $this->numbered($case->procedure_version_id);
    }

    public function numbered(int $id): ProcedurePart
    {
        if (! isset($this->read[$id])) {
            $row = DB::table('procedure_versions')->where('id', $id)->first()
                ?? throw new \UnexpectedValueException("There is no version {$id} of a procedure.");
            $this->read[$id] = ProcedurePart::of((string) $row->code, json_decode((string) $row->content, true, 64, JSON_THROW_ON_ERROR));
        }

        return $this->read[$id];
    }

    /** Since when there is a procedure; what was filed before does not begin in it. */
    public static function since(string $code): ?Carbon
    {
        $at = DB::table('procedure_versions')->where('code', $code)->min('at');

        return $at === null ? null : Carbon::parse((string) $at);
    }
}
