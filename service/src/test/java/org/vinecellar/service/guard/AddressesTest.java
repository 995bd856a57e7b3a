package org.vinecellar.service.guard;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What one sender can choose from is one. */
class AddressesTest {
  @ParameterizedTest
  @CsvSource({
    "2001:db8:1:2::1, 2001:db8:1:2:ffff:ffff:ffff:ffff, true",
    "2001:db8::1, 2001:db8:0:0:7:0:0:9, true",
    "2001:0db8:0000:0000:0000:0000:0000:0001, 2001:db8::2, true",
    "2001:DB8::a, 2001:db8::b, true",
    "fe80::1%eth0, fe80::2%eth1, true",
    "::1, ::2, true",
    "192.0.2.1, 192.0.2.1, true",
    "2001:db8:1:2::1, 2001:db8:1:3::1, false",
    "2001:db8::1, 2001:db9::1, false",
    "192.0.2.1, 192.0.2.2, false",
    "192.0.2.1, 2001:db8::1, false",
    "unix, other, false",
  })
  void areOne(String one, String other, boolean same) {
    assertThat(Addresses.grouped(one).equals(Addresses.grouped(other))).isEqualTo(same);
  }

  @Test
  void whatIsNotKnownIsSaid() {
    assertThat(Addresses.grouped(null)).isEqualTo("unknown");
    assertThat(Addresses.grouped("2001:db8:1:2::1")).isEqualTo("20:01:0d:b8:00:01:00:02::/64");
  }
}
