@php($th = 'style="border-bottom:0.5pt solid #000000;font-weight:bold;"')
<h1 style="font-size:16pt;">Certificate of disposal {{ $says['number'] }}</h1>
<p style="font-size:11pt;">{{ $says['name'] }}: {{ lcfirst($action) }}</p>
<table cellpadding="2">
    <tr><td width="25%">Covers</td><td width="75%">{{ $says['covers'] }}</td></tr>
    <tr><td>Prepared</td><td>{{ $says['prepared']['by'] }}, {{ $says['prepared']['at'] }}</td></tr>
    <tr><td>Reviewed</td><td>{{ $says['submitted']['by'] }}, {{ $says['submitted']['at'] }}</td></tr>
    <tr><td>Approved</td><td>{{ $says['approved']['by'] }}, {{ $says['approved']['at'] }}</td></tr>
    @if ($says['carried_out'])<tr><td>Carried out</td><td>{{ $says['carried_out']['from'] }} to {{ $says['carried_out']['to'] }}</td></tr>@endif
    @if ($says['receipt'])<tr><td>Receipt</td><td>{{ $says['receipt']['text'] }} (recorded by {{ $says['receipt']['by'] }}, {{ $says['receipt']['at'] }})</td></tr>@endif
</table>
<h2 style="font-size:11pt;">{{ $says['action'] === 'hand_over' ? 'Handed over and destroyed here' : 'Destroyed' }}: {{ count($says['documents']) }}</h2>
@if ($says['documents'] !== [])
<table cellpadding="2">
    <thead><tr><th {!! $th !!} width="15%">Reference</th><th {!! $th !!} width="20%">Type, library</th><th {!! $th !!} width="27%">Rule</th><th {!! $th !!} width="38%">SHA-256, entry of the history</th></tr></thead>
    @foreach ($says['documents'] as $one)
    <tr nobr="true"><td width="15%">{{ $one['ref'] }}</td><td width="20%">{{ $one['type'] }}, {{ $one['library'] }}</td><td width="27%">{{ $one['rule'] }}</td><td width="38%" style="font-size:6.5pt;">{{ $one['sha256'] }}<br />{{ $one['entry'] }}, {{ $one['at'] }}</td></tr>
    @endforeach
</table>
@endif
@if ($says['kept'] !== [])
<h2 style="font-size:11pt;">Kept or postponed: {{ count($says['kept']) }}</h2>
<table cellpadding="2">
    @foreach ($says['kept'] as $one)
    <tr nobr="true"><td width="15%">{{ $one['ref'] }}</td><td width="85%">{{ $one['decision'] === 'keep' ? 'Kept' : "Postponed to {$one['until']}" }}: {{ $one['reason'] }} ({{ $one['by'] }})</td></tr>
    @endforeach
</table>
@endif
@if ($says['left_out'] !== [])
<h2 style="font-size:11pt;">Left out: {{ count($says['left_out']) }}</h2>
<table cellpadding="2">
    @foreach ($says['left_out'] as $one)
    <tr nobr="true"><td width="15%">{{ $one['ref'] }}</td><td width="85%">{{ $one['why'] }}</td></tr>
    @endforeach
</table>
@endif
<p>{{ $says['backups'] }}</p>
<h2 style="font-size:11pt;">Proof</h2>
<p style="font-size:7.5pt;">The certificate in JSON has the SHA-256<br />{{ $sum }}<br />which entry {{ $entry }} of the history, of {{ $at }}, records. The hash of this entry is<br />{{ $hash }}<br />and each later entry of the history covers it.</p>
