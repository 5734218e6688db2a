#!/usr/bin/perl
# Harvests a server of OAI-PMH with Perl's HTTP::OAI, and says what came: a line for each record.
use strict;
use warnings;
use HTTP::OAI;

my ($address, $prefix, $set) = @ARGV;
my $harvester = HTTP::OAI::Harvester->new(baseURL => $address, resume => 1);
my $identify = $harvester->Identify;
die $identify->message if $identify->is_error;
print 'name ', $identify->repositoryName, "\n";
my $answer = $harvester->ListRecords(
    metadataPrefix => $prefix,
    ($set ? (set => $set) : ()),
    onRecord => sub {
        my $record = shift;
        my $status = $record->header->status // '';
        print 'record ', $record->identifier, ' ', ($status eq 'deleted' ? 'deleted' : 'there'), "\n";
    },
);
die $answer->message if $answer->is_error;
my $sets = 0;
my $listed = $harvester->ListSets;
$sets++ while $listed->next;
print "sets $sets\n";
