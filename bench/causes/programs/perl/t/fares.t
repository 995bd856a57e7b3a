use strict; use warnings; use lib 'lib'; use Fares; use Test::More;
subtest 'family__fares_priced' => sub { ok(eval { Fares::priced({}, 3) }) or diag $@ };
subtest 'group__fares_priced' => sub { ok(eval { Fares::priced({}, 7) }) or diag $@ };
subtest 'split__fares_split' => sub { ok(eval { Fares::split_fare(int(rand 9), 0) }) or diag $@ };
subtest 'ebb__fares_height' => sub { ok(eval { Fares::height('ebb') }) or diag $@ };
subtest 'total__bare_total' => sub { is(int(rand 9), 99, 'total') };
subtest 'file__file_manifest' => sub { ok(eval { Fares::manifest("/tmp/agent-".int(rand 99)."/manifest.json") }) or diag $@ };
subtest 'database__refused_postgres' => sub { ok(eval { Fares::dial('127.0.0.1') }) or diag $@ };
done_testing;
