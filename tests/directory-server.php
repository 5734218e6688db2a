<?php

declare(strict_types=1);

/** A directory of its own for a test: Debian’s slapd on loopback, with some people. */
final class DirectoryServer
{
    private string $folder;

    /** @var resource|null */
    private $process = null;

    public int $port;

    public function __construct()
    {
        $this->folder = sys_get_temp_dir().'/brenvic-directory-'.bin2hex(random_bytes(4));
        $socket = stream_socket_server('tcp://127.0.0.1:0') ?: throw new RuntimeException('There is no port free.');
        $this->port = (int) substr((string) strrchr((string) stream_socket_get_name($socket, false), ':'), 1);
        fclose($socket);
        mkdir("{$this->folder}/data", 0777, true);
    }

    public static function isThere(): bool
    {
        return is_executable('/usr/sbin/slapd') && function_exists('ldap_connect');
    }

    public function address(): string
    {
        return "ldap://127.0.0.1:{$this->port}";
    }

    /** @param  array<string, string>  $people  passwords by name */
    public function start(array $people): void
    {
        file_put_contents("{$this->folder}/slapd.conf", implode("\n", [
            'include /etc/ldap/schema/core.schema',
            'include /etc/ldap/schema/cosine.schema',
            'include /etc/ldap/schema/inetorgperson.schema',
            "pidfile {$this->folder}/pid",
            'modulepath /usr/lib/ldap',
            'moduleload back_mdb',
            'database mdb',
            'suffix "dc=tarnwick,dc=example"',
            "directory {$this->folder}/data",
            '',
        ]));
        $entries = [
            "dn: dc=tarnwick,dc=example\nobjectClass: dcObject\nobjectClass: organization\no: Trust\ndc: tarnwick",
            "dn: ou=people,dc=tarnwick,dc=example\nobjectClass: organizationalUnit\nou: people",
        ];
        foreach ($people as $name => $password) {
            $entries[] = "dn: uid={$name},ou=people,dc=tarnwick,dc=example\nobjectClass: inetOrgPerson\nuid: {$name}\ncn: {$name}\nsn: {$name}\nuserPassword: {$password}";
        }
        file_put_contents("{$this->folder}/people.ldif", implode("\n\n", $entries)."\n");
        exec("/usr/sbin/slapadd -f {$this->folder}/slapd.conf -l {$this->folder}/people.ldif 2>&1", $said, $code);
        $code === 0 || throw new RuntimeException(implode("\n", $said));
        $pipes = [];
        $this->process = proc_open(
            ['/usr/sbin/slapd', '-f', "{$this->folder}/slapd.conf", '-h', $this->address(), '-d', '0'],
            [1 => ['file', '/dev/null', 'w'], 2 => ['file', "{$this->folder}/log", 'w']],
            $pipes,
        ) ?: null;
        for ($tries = 0; @fsockopen('127.0.0.1', $this->port) === false; $tries++) {
            $tries < 100 || throw new RuntimeException((string) file_get_contents("{$this->folder}/log"));
            usleep(50_000);
        }
    }

    public function stop(): void
    {
        if ($this->process !== null) {
            proc_terminate($this->process);
            proc_close($this->process);
            $this->process = null;
        }
    }

    public function __destruct()
    {
        $this->stop();
        (new Illuminate\Filesystem\Filesystem())->deleteDirectory($this->folder);
    }
}
