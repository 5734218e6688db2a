<?php

declare(strict_types=1);

namespace App\People;

use App\Design\Draft;
use App\History\Act;
use App\History\History;
use App\Models\Right;
use App\Models\User;
use App\Procedures\Cases;
use App\Support\Address;
use App\Support\Outbox;
use App\Support\Refused;
use Brenvic\Core\Design\Design;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Hash;
use Illuminate\Support\Str;

/**
 * Makes people, changes what they may do, and puts them out of use. Each act is in the history. Nobody is ever deleted: the
 * history names them. A new person, or one who forgot their password, gets a code that is good once and for some days, with
 * which they choose a password of their own.
 */
final readonly class People
{
    private const CODE_DAYS = 7;

    /** Letters and digits that are not taken for one another. */
    private const SIGNS = 'abcdefghjkmnpqrstuvwxyz23456789';

    public function __construct(private Draft $draft, private RoleChanges $roles, private Cases $cases)
    {
    }

    /** @return array{User, string} the person, and the code that they begin with */
    public function add(?User $by, string $signIn, PersonGiven $given): array
    {
        return DB::transaction(function () use ($by, $signIn, $given): array {
            $person = User::query()->create([
                'name' => $given->name,
                'sign_in' => $signIn,
                'role' => $given->role,
                'mail' => $given->mail,
                'known_by' => $given->knownBy,
                'password' => Str::random(60),
            ]);
            Groups::put($person, $given->groups);
            History::record(Act::PersonAdded, $by, null, [
                'person' => $person->sign_in,
                'name' => $given->name,
                'role' => $given->role,
                'groups' => $given->groups,
            ]);

            return [$person, $this->code($by, $person)];
        });
    }

    /**
     * @throws Refused when nobody would be left to administer, or to design something
     */
    public function change(?User $by, User $person, PersonGiven $given): void
    {
        DB::transaction(function () use ($by, $person, $given): void {
            $isAdministered = $this->roles->isAdministered();
            $before = [
                'name' => $person->name,
                'mail' => $person->mail,
                'known_by' => $person->known_by,
                'role' => $person->role->code,
                'groups' => $person->groups()->orderBy('name')->pluck('name')->all(),
            ];
            $person->update(['name' => $given->name, 'role' => $given->role, 'mail' => $given->mail, 'known_by' => $given->knownBy]);
            Groups::put($person, $given->groups);
            $after = [
                'name' => $given->name,
                'mail' => $given->mail,
                'known_by' => $given->knownBy,
                'role' => $given->role,
                'groups' => $person->groups()->orderBy('name')->pluck('name')->all(),
            ];
            $changes = [];
            foreach ($after as $what => $value) {
                if ($before[$what] !== $value) {
                    $changes[$what] = ['was' => $before[$what], 'is' => $value];
                }
            }
            $this->guard($isAdministered);
            if ($changes !== []) {
                History::record(Act::PersonChanged, $by, null, ['person' => $person->sign_in, ...$changes]);
            }
        });
    }

    /** A new code that is good once; the one before is good no more. It is mailed to whoever has an address. */
    public function code(?User $by, User $person): string
    {
        $code = implode(
            '-',
            array_map(static function (): string {
                return implode('', array_map(static fn (): string => self::SIGNS[random_int(0, strlen(self::SIGNS) - 1)], range(1, 4)));
            }, range(1, 4)),
        );
        DB::transaction(static function () use ($by, $person, $code): void {
            $person->update(['code_hash' => Hash::make($code), 'code_expires_at' => now()->addDays(self::CODE_DAYS)]);
            self::blank($person);
            if ($person->mail !== null) {
                self::post($by ?? $person, $person, $code);
            }
            History::record(Act::CodeMade, $by, null, [
                'person' => $person->sign_in,
                ...$person->mail === null ? [] : ['mailed_to' => $person->mail],
            ]);
        });

        return $code;
    }

    /** Sets the password of somebody who has shown who they are. Every other session of theirs ends. */
    public function setPassword(User $person, string $password): void
    {
        DB::transaction(static function () use ($person, $password): void {
            $person
                ->forceFill(['password' => $password, 'code_hash' => null, 'code_expires_at' => null])
                ->save();
            self::blank($person);
            Sessions::endAll($person);
            History::record(Act::PasswordSet, $person, null, ['person' => $person->sign_in]);
        });
    }

    /** The address at which somebody chooses a password with a code. */
    public static function address(User $person): string
    {
        return Address::of('/?code=1&sign_in='.rawurlencode($person->sign_in));
    }

    private static function post(User $by, User $person, string $code): void
    {
        $text =
            "Your sign-in name is {$person->sign_in}. With this one-time code you choose a password of your own:\n\n{$code}\n\n".
            self::address($person).
            "\n\nThe code is good once, until {$person->code_expires_at?->format('j M Y')}.";
        Outbox::put($by->id, (string) $person->mail, 'Your one-time code for Brenvic', $text, $person->id);
    }

    /** A code that was used, or replaced, stands in no message any more. */
    private static function blank(User $person): void
    {
        DB::table('outbox')
            ->where('code_of', $person->id)
            ->update(['text' => 'The one-time code of this message is no longer good.']);
    }

    /**
     * Puts somebody out of use. What they have in hand goes to another: documents that are checked out or wait in their
     * intake, pull lists, and searches that are shared. What is only theirs stays and is there again when they come back.
     *
     * @return array<string, int> how many of each were handed on
     *
     * @throws Refused
     */
    public function putOut(?User $by, User $person, ?User $heir): array
    {
        if ($by?->id === $person->id) {
            throw new Refused('You cannot put yourself out of use. Ask another administrator.');
        }
        if ($heir !== null && ($heir->id === $person->id || $heir->out_of_use_at !== null)) {
            throw new Refused('Choose somebody else, who is in use, to hand things on to.');
        }

        return DB::transaction(function () use ($by, $person, $heir): array {
            $hand = $this->inHand($person);
            if (array_sum($hand) > 0 && $heir === null) {
                throw new Refused("{$person->name} has things in hand. Choose who takes them over.");
            }
            $mayFile = $heir?->may(Right::File) === true;
            if ($heir !== null && ! $mayFile && $hand['check_outs'] + $hand['waiting'] > 0) {
                throw new Refused("{$heir->name} may not file documents. Choose somebody who may.");
            }
            if ($heir !== null) {
                DB::table('check_outs')
                    ->where('user_id', $person->id)
                    ->update(['user_id' => $heir->id]);
                DB::table('documents')
                    ->where('created_by', $person->id)
                    ->where('state', 'waiting')
                    ->update(['created_by' => $heir->id]);
                DB::table('pull_list_user')
                    ->whereIn('pull_list_id', DB::table('pull_lists')->where('user_id', $person->id)->select('id'))
                    ->where('user_id', $heir->id)
                    ->delete();
                DB::table('pull_lists')
                    ->where('user_id', $person->id)
                    ->update(['user_id' => $heir->id]);
                DB::table('saved_searches')
                    ->where('user_id', $person->id)
                    ->where('groups', '!=', '[]')
                    ->update(['user_id' => $heir->id]);
            }
            $isAdministered = $this->roles->isAdministered();
            $person
                ->forceFill(['out_of_use_at' => now(), 'code_hash' => null, 'code_expires_at' => null])
                ->save();
            self::blank($person);
            Sessions::endAll($person);
            Tokens::revokeAll($person);
            $hand['tasks'] = $this->cases->gone($person);
            $this->guard($isAdministered);
            History::record(Act::PersonOut, $by, null, [
                'person' => $person->sign_in,
                ...$heir === null ? [] : ['to' => $heir->sign_in],
                'handed_on' => $hand,
            ]);

            return $hand;
        });
    }

    public function bringBack(?User $by, User $person): void
    {
        DB::transaction(static function () use ($by, $person): void {
            $person->forceFill(['out_of_use_at' => null])->save();
            History::record(Act::PersonBack, $by, null, ['person' => $person->sign_in]);
        });
    }

    /** @return array{check_outs: int, waiting: int, lists: int, searches: int} what somebody else would have to take over */
    public function inHand(User $person): array
    {
        return [
            'check_outs' => DB::table('check_outs')->where('user_id', $person->id)->count(),
            'waiting' => DB::table('documents')
                ->where('created_by', $person->id)
                ->where('state', 'waiting')
                ->whereNull('parent_id')
                ->whereNull('deleted_at')
                ->count(),
            'lists' => DB::table('pull_lists')->where('user_id', $person->id)->whereNull('deleted_at')->count(),
            'searches' => DB::table('saved_searches')->where('user_id', $person->id)->where('groups', '!=', '[]')->count(),
        ];
    }

    /** Whether a code is the person’s, and still good. */
    public static function isCode(User $person, string $code): bool
    {
        $isGood = $person->code_hash !== null && $person->code_expires_at instanceof Carbon && $person->code_expires_at->isFuture();

        return Hash::check(mb_strtolower(trim($code)), $isGood ? (string) $person->code_hash : (string) $person->getAuthPassword()) &&
            $isGood;
    }

    /**
     * @param  bool  $wasAdministered  whether there was an administrator before the change
     *
     * @throws Refused
     */
    private function guard(bool $wasAdministered): void
    {
        if ($wasAdministered && ! $this->roles->isAdministered()) {
            throw new Refused('This would leave nobody who may administer. Give somebody else this role first.');
        }
        $this->draft->guardDesigners();
    }
}
