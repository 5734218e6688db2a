<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Webhooks;

/**
 * Signs a message with a secret that both sides know: HTTP Message Signatures (RFC 9421) with `hmac-sha256` (section 3.3.3), over what
 * covers the body, the Content-Digest (RFC 9530).
 */
final readonly class MessageSignature
{
    private const ALGORITHM = 'hmac-sha256';

    /**
     * @param  string  $label  by which this signature is told from others, a token
     * @param  string  $keyId  by which the receiver finds the secret
     */
    public function __construct(private string $label, private string $keyId, private string $secret)
    {
    }

    /** The value of Content-Digest. */
    public static function digest(string $body): string
    {
        return 'sha-256=:'.base64_encode(hash('sha256', $body, true)).':';
    }

    /**
     * @param  array<string, string>  $components  values by what they are: names of fields in lower case, or derived components such as @method
     * @param  int  $created  seconds since 1970
     * @param  bool  $namesAlgorithm  whether the parameters say the algorithm, which the receiver may know by the key
     * @return array{'Signature-Input': string, Signature: string}
     */
    public function headers(array $components, int $created, bool $namesAlgorithm = true): array
    {
        $parameters = '('.implode(' ', array_map(static fn (string $name): string => "\"{$name}\"", array_keys($components))).')'
            .";created={$created};keyid=\"{$this->keyId}\"".($namesAlgorithm ? ';alg="'.self::ALGORITHM.'"' : '');
        $lines = [];
        foreach ($components as $name => $value) {
            $lines[] = "\"{$name}\": ".trim($value);
        }
        $lines[] = "\"@signature-params\": {$parameters}";
        $signature = base64_encode(hash_hmac('sha256', implode("\n", $lines), $this->secret, true));

        return ['Signature-Input' => "{$this->label}={$parameters}", 'Signature' => "{$this->label}=:{$signature}:"];
    }
}
