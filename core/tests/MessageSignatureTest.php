<?php

declare(strict_types=1);

use Brenvic\Core\Exchange\Webhooks\MessageSignature;

it('signs as RFC 9421 does in its own example with a shared secret (B.2.5)', function () {
    $secret = (string) base64_decode('uzvJfB4u3N0Jy4T7NZ75MDVcr8zSTInedJtkgcu46YW4XByzNJjxBdtjUkdJPBtbmHhIDi6pcl8jsasjlTMtDQ==', true);
    $headers = (new MessageSignature('sig-b25', 'test-shared-secret', $secret))->headers(
        ['date' => 'Tue, 20 Apr 2021 02:07:55 GMT', '@authority' => 'example.com', 'content-type' => 'application/json'],
        1618884473,
        false,
    );
    expect($headers)->toBe([
        'Signature-Input' => 'sig-b25=("date" "@authority" "content-type");created=1618884473;keyid="test-shared-secret"',
        'Signature' => 'sig-b25=:pxcQw6G3AjtMBQjwo8XzkZf/bws5LelbaMk5rGIGtE8=:',
    ]);
});

it('says what covers the body as RFC 9530 does in its own example', function () {
    expect(MessageSignature::digest('{"hello": "world"}'))->toBe('sha-256=:X48E9qOokqqrvdts8nOJRJN3OWDUoyWxBf7kbu9DBPE=:')
        ->and(MessageSignature::digest("{\"hello\": \"world\"}\n"))->toBe('sha-256=:RK/0qy18MlBSVnWgjwz6lZEWjP/lF5HF9bvEF8FabDg=:');
});

it('signs otherwise whatever is changed', function () {
    $of = static fn (string $secret, array $components, int $at): string => (new MessageSignature('brenvic', 'webhook-1', $secret))->headers($components, $at)['Signature'];
    $plain = ['@method' => 'POST', '@target-uri' => 'https://a.example/', 'content-digest' => MessageSignature::digest('{}')];
    $all = [
        $of('s', $plain, 1),
        $of('t', $plain, 1),
        $of('s', $plain, 2),
        $of('s', [...$plain, '@target-uri' => 'https://b.example/'], 1),
        $of('s', [...$plain, 'content-digest' => MessageSignature::digest('{ }')], 1),
    ];
    expect(array_unique($all))->toHaveCount(count($all));
});
