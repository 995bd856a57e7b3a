package Fares;
use strict; use warnings; use Carp; use IO::Socket::INET;
sub priced { my ($rows, $zone) = @_; return $rows->{$zone}->amount; }
sub split_fare { my ($t, $h) = @_; return $t / $h; }
sub height { my $t = shift; confess "no height for $t" unless $t eq 'high'; 4 }
sub manifest { my $p = shift; open(my $f, '<', $p) or die "cannot open $p: $!"; }
sub dial { IO::Socket::INET->new(PeerAddr => shift, PeerPort => 5432, Timeout => 1) or die "$@"; }
1;
