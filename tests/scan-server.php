<?php

declare(strict_types=1);

/** The scanner that ships with the application, for a test: with its own stack, in its own process. */
final class ScanServer
{
    public readonly int $port;

    private readonly string $folder;

    /** @var resource|null */
    private $process = null;

    public function __construct()
    {
        $this->folder = sys_get_temp_dir().'/brenvic-scanner-'.bin2hex(random_bytes(4));
        $socket = stream_socket_server('tcp://127.0.0.1:0') ?: throw new RuntimeException('There is no port free.');
        $this->port = (int) substr((string) strrchr((string) stream_socket_get_name($socket, false), ':'), 1);
        fclose($socket);
    }

    public function start(): void
    {
        $process = proc_open(
            ['php', '-d', 'display_errors=0', '-S', "127.0.0.1:{$this->port}", 'demo/scanner.php'],
            [['file', '/dev/null', 'r'], ['file', '/dev/null', 'w'], ['file', '/dev/null', 'w']],
            $pipes,
            dirname(__DIR__),
            ['BRENVIC_DATA' => $this->folder, 'PATH' => (string) getenv('PATH')],
        );
        $this->process = $process === false ? null : $process;
        $until = microtime(true) + 10;
        while (($there = @fsockopen('127.0.0.1', $this->port)) === false) {
            microtime(true) < $until ?: throw new RuntimeException('The scanner does not start.');
            usleep(20_000);
        }
        fclose($there);
    }

    public function stop(): void
    {
        if ($this->process !== null) {
            proc_terminate($this->process, SIGKILL);
            proc_close($this->process);
            $this->process = null;
        }
        Illuminate\Support\Facades\File::deleteDirectory($this->folder);
    }
}
