<?php

declare(strict_types=1);

namespace Tests;

use App\Models\Library;
use App\Models\User;
use Demo\TrustDesign;
use Illuminate\Foundation\Testing\RefreshDatabase;
use Illuminate\Foundation\Testing\TestCase as FrameworkTestCase;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\File;
use Illuminate\Testing\TestResponse;

/** The application with the demo's design and people, and no document. */
abstract class TestCase extends FrameworkTestCase
{
    use RefreshDatabase {
        migrateDatabases as private migratedDatabases;
    }

    protected function setUp(): void
    {
        parent::setUp();
        config(['brenvic.data' => sys_get_temp_dir().'/brenvic-test-'.getmypid()]);
    }

    /** What every test begins with is made once: each test is a transaction that is rolled back to it. */
    protected function migrateDatabases(): void
    {
        $this->migratedDatabases();
        config(['brenvic.data' => sys_get_temp_dir().'/brenvic-test-'.getmypid()]);
        TrustDesign::install();
        $this->app->forgetScopedInstances();
    }

    protected function tearDown(): void
    {
        File::deleteDirectory(config('brenvic.data'));
        parent::tearDown();
    }

    /** Every answer is held against the description of the API. */
    protected function createTestResponse($response, $request)
    {
        $fault = ApiDescription::fault($request, $response->baseResponse ?? $response);
        if ($fault !== null) {
            self::fail($fault);
        }

        return parent::createTestResponse($response, $request);
    }

    public function as(string $signIn): static
    {
        // Somebody else than before has a session of their own.
        $this->app['session']->forget(['password_hash_web', 'session_key']);

        return $this->actingAs(User::query()->where('sign_in', $signIn)->firstOrFail());
    }

    public function upload(string $contents, string $name, string $library = 'waterways'): TestResponse
    {
        return $this->as('clerk')->post(
            '/api/intake',
            ['library' => $library, 'file' => UploadedFile::fake()->createWithContent($name, $contents)],
            ['Accept' => 'application/json'],
        );
    }

    /**
     * Brings a document in and files it.
     *
     * @param  array<string, list<string>>  $values
     * @return string its reference
     */
    public function filed(
        string $contents,
        string $name,
        string $type,
        array $values,
        string $library = 'waterways',
        string $by = 'clerk',
    ): string {
        $this->as($by);
        $ref = $this->post(
            '/api/intake',
            ['library' => $library, 'file' => UploadedFile::fake()->createWithContent($name, $contents)],
            ['Accept' => 'application/json'],
        )
            ->assertCreated()
            ->json('ref');
        $this->postJson('/api/intake/file', ['documents' => [$ref], 'type' => $type, 'values' => $values])->assertOk();

        return $ref;
    }

    /** Publishes the draft, so that the changes made so far are in use. */
    public function publish(string $note = ''): TestResponse
    {
        $answer = $this->as('librarian')->postJson('/api/design/draft/publish', ['note' => $note]);
        app()->forgetScopedInstances();

        return $answer;
    }

    /** @return array<string, mixed> a part of the design as the draft has it */
    public function drafted(string $kind, string $code): array
    {
        return collect(
            $this->as('librarian')
                ->getJson('/api/design/draft')
                ->json("design.{$kind}"),
        )->firstWhere('code', $code);
    }

    /** @return list<array<string, mixed>> what publishing would do */
    public function effects(): array
    {
        return $this->as('librarian')->getJson('/api/design/draft/effects')->assertOk()->json('effects');
    }

    /** @param  array<string, mixed>  $search */
    public function search(array $search, string $by = 'librarian'): TestResponse
    {
        return $this->as($by)->postJson('/api/search', $search);
    }

    public function libraryId(string $code): int
    {
        return Library::query()->where('code', $code)->firstOrFail()->id;
    }
}
