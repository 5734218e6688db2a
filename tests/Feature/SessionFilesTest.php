<?php

declare(strict_types=1);

use App\People\SessionFiles;
use Illuminate\Filesystem\Filesystem;

beforeEach(function () {
    $this->folder = sys_get_temp_dir().'/brenvic-sessions-'.bin2hex(random_bytes(6));
    mkdir($this->folder);
    $this->files = new SessionFiles(new Filesystem(), $this->folder, 60);
});

afterEach(function () {
    (new Filesystem())->deleteDirectory($this->folder);
});

it('writes a session only when something in it has changed, and notes once a minute that it is in use', function () {
    $path = "{$this->folder}/one";
    $this->files->write('one', 'first');
    expect(file_get_contents($path))->toBe('first')->and($this->files->read('one'))->toBe('first');
    $since = time() - 600;
    touch($path, $since);
    $inode = fileinode($path);
    file_put_contents($path, 'changed by somebody else');
    touch($path, $since);
    $this->files->write('one', 'first');
    clearstatcache();
    expect(file_get_contents($path))->toBe('changed by somebody else')
        ->and(filemtime($path))->toBeGreaterThan($since)
        ->and(fileinode($path))->toBe($inode);
    $noted = time() - 30;
    touch($path, $noted);
    clearstatcache();
    $this->files->write('one', 'first');
    clearstatcache();
    expect(filemtime($path))->toBe($noted);
    $this->files->write('one', 'second');
    expect(file_get_contents($path))->toBe('second');
    $this->files->destroy('one');
    expect($this->files->read('one'))->toBe('');
    // Ended elsewhere and written once more by a request under way: it has what that request had.
    $this->files->write('one', 'second');
    expect($this->files->read('one'))->toBe('second');
});

it('knows no session that was not used for as long as sessions last', function () {
    $this->files->write('old', 'something');
    touch("{$this->folder}/old", time() - 3_700);
    clearstatcache();
    expect($this->files->read('old'))->toBe('');
});

it('takes away what nobody is signed in with after a day, and the rest when its time is over', function () {
    $this->files = new SessionFiles(new Filesystem(), $this->folder, 60 * 24 * 400);
    foreach (['signed' => 's:11:"session_key"', 'stranger' => 'a:0:{}', 'new' => 'a:0:{}', 'ancient' => 's:11:"session_key"'] as $name => $data) {
        $this->files->write($name, $data);
    }
    touch("{$this->folder}/signed", time() - 300 * 86_400);
    touch("{$this->folder}/stranger", time() - 90_000);
    touch("{$this->folder}/ancient", time() - 401 * 86_400);
    clearstatcache();
    $this->files->clear();
    expect(array_map(basename(...), glob("{$this->folder}/*") ?: []))->toBe(['new', 'signed']);
});
