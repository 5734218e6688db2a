<?php

declare(strict_types=1);

/** A mail server of its own for a test: Debian’s dovecot on loopback, with one mailbox. */
final class MailServer
{
    public const USER = 'office';

    public const PASSWORD = 'a+p@ss/word';

    private string $folder;

    /** @var resource|null */
    private $process = null;

    public int $port;

    public function __construct()
    {
        $this->folder = sys_get_temp_dir().'/brenvic-mail-'.bin2hex(random_bytes(4));
        $socket = stream_socket_server('tcp://127.0.0.1:0') ?: throw new RuntimeException('There is no port free.');
        $this->port = (int) substr((string) strrchr((string) stream_socket_get_name($socket, false), ':'), 1);
        fclose($socket);
        mkdir("{$this->folder}/mail", 0777, true);
        chmod($this->folder, 0777);
        chmod("{$this->folder}/mail", 0777);
    }

    public static function isThere(): bool
    {
        return trim((string) shell_exec('command -v dovecot')) !== '' || is_executable('/usr/sbin/dovecot');
    }

    public function address(string $password = self::PASSWORD): string
    {
        return 'imap://'.self::USER.':'.rawurlencode($password)."@127.0.0.1:{$this->port}/INBOX";
    }

    public function start(): void
    {
        // Mail is never kept by root; who is not root can only be who they are.
        $self = posix_getpwuid(posix_geteuid())['name'] ?? 'nobody';
        [$mail, $internal, $login] = posix_geteuid() === 0 ? ['nobody', 'dovecot', 'dovenull'] : [$self, $self, $self];
        $group = posix_getgrgid(posix_getpwnam($mail)['gid'] ?? 0)['name'] ?? 'nogroup';
        file_put_contents("{$this->folder}/dovecot.conf", implode("\n", [
            'protocols = imap',
            "base_dir = {$this->folder}/run",
            "log_path = {$this->folder}/log",
            'listen = 127.0.0.1',
            'ssl = no',
            'disable_plaintext_auth = no',
            "mail_location = maildir:{$this->folder}/mail/%u",
            "default_internal_user = {$internal}",
            "default_login_user = {$login}",
            'first_valid_uid = 1',
            "service imap-login {\n chroot =\n inet_listener imap {\n port = {$this->port}\n }\n inet_listener imaps {\n port = 0\n }\n}",
            "service anvil {\n chroot =\n}",
            "passdb {\n driver = static\n args = password=".self::PASSWORD."\n}",
            "userdb {\n driver = static\n args = uid={$mail} gid={$group} home={$this->folder}/mail/%u\n}",
            "namespace inbox {\n inbox = yes\n}",
            '',
        ]));
        $log = ['file', "{$this->folder}/started", 'a'];
        $this->process = proc_open(['/usr/sbin/dovecot', '-F', '-c', "{$this->folder}/dovecot.conf"], [1 => $log, 2 => $log], $pipes) ?: null;
        for ($tries = 0; $tries < 100 && ! $this->answers(); $tries++) {
            usleep(50_000);
        }
        if (! $this->answers()) {
            $said = @file_get_contents("{$this->folder}/started").@file_get_contents("{$this->folder}/log");
            throw new RuntimeException("The mail server does not answer: {$said}");
        }
    }

    private function answers(): bool
    {
        $socket = @stream_socket_client("tcp://127.0.0.1:{$this->port}", $code, $says, 0.2);
        $isThere = $socket !== false && str_contains((string) fgets($socket), 'OK');
        $socket === false || fclose($socket);

        return $isThere;
    }

    public function stop(): void
    {
        if ($this->process !== null) {
            proc_terminate($this->process);
            proc_close($this->process);
            $this->process = null;
        }
    }

    /** Puts a mail into a folder of the mailbox, as a client does. */
    public function put(string $mail, string $into = 'INBOX'): void
    {
        $this->inside(static fn (IMAP\Connection $in, string $server) => imap_append($in, "{$server}{$into}", str_replace("\n", "\r\n", $mail)));
    }

    /** How many mails lie in a folder of the mailbox. */
    public function count(string $folder = 'INBOX'): int
    {
        return (int) $this->inside(static function (IMAP\Connection $in, string $server) use ($folder): int {
            $status = @imap_status($in, "{$server}{$folder}", SA_MESSAGES);

            return $status === false ? 0 : $status->messages;
        });
    }

    /** @param  callable(IMAP\Connection, string): mixed  $what */
    private function inside(callable $what): mixed
    {
        $server = "{127.0.0.1:{$this->port}/imap/notls/norsh}";
        $in = imap_open($server, self::USER, self::PASSWORD) ?: throw new RuntimeException(implode(' ', imap_errors() ?: []));
        try {
            return $what($in, $server);
        } finally {
            imap_close($in);
            imap_errors();
        }
    }

    public function __destruct()
    {
        $this->stop();
        exec('rm -rf '.escapeshellarg($this->folder));
    }
}
