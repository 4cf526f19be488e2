package tidybridge.core.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class AddressListTest {

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    10.0.0.0/8               | 10.255.0.1             | true
                    10.0.0.0/8               | 11.0.0.1               | false
                    192.0.2.128/25           | 192.0.2.127            | false
                    192.0.2.128/25           | 192.0.2.128            | true
                    192.0.2.7                | 192.0.2.7              | true
                    192.0.2.7                | 192.0.2.8              | false
                    0.0.0.0/0                | 203.0.113.9            | true
                    0.0.0.0/0                | 2001:db8::1            | false
                    ::/0                     | 2001:db8::1            | true
                    2001:db8::/32            | 2001:db8:ffff::1       | true
                    2001:db8::/32            | 2001:db9::1            | false
                    2001:db8:0:8000::/49     | 2001:db8:0:7fff::1     | false
                    2001:db8:0:8000::/49     | 2001:db8:0:ffff::1     | true
                    fe80::/10                | fe80::1%eth0           | true
                    192.0.2.0/24             | ::ffff:192.0.2.9       | true
                    10.0.0.0/8,2001:db8::/32 | 2001:db8::2            | true
                    10.0.0.0/8               | localhost              | false
                    10.0.0.0/8               | not an address         | false
                    10.0.0.0/8               | ''                     | false
                    """)
    void anAddressIsInANetworkOrNot(String networks, String address, boolean expected) {
        List<String> texts = Arrays.asList(networks.split(","));
        assertThat(texts).allMatch(AddressList::isNetwork);
        assertThat(AddressList.of(texts).contains(address)).isEqualTo(expected);
        assertThat(AddressList.of(texts).written()).isEqualTo(texts);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "/",
                "/8",
                "10.0.0.0/",
                "10.0.0.0/33",
                "10.0.0.0/-1",
                "10.0.0.0/08",
                "10.0.0.0/8/8",
                "10.0.0/8",
                "::/129",
                "localhost",
                "example.org",
                "fe80::1%eth0",
                "10.0.0.0 /8",
                "1e1.0.0.0",
                "10.0.0.256",
                "10.0.0.00",
                "010.0.0.0",
                "10.0.0.0.",
                ".10.0.0.0",
                "10..0.0",
                "10.0.0.0.0",
                "::g",
                "10.0.0.0/8\n"
            })
    void whatIsNoNetwork(String text) {
        assertThat(AddressList.isNetwork(text)).isFalse();
    }

    @Test
    void anEmptyListIsEverywhere() {
        assertThat(AddressList.of(List.of())).isSameAs(AddressList.EVERYWHERE);
        assertThat(AddressList.EVERYWHERE.contains("anything")).isTrue();
        assertThat(AddressList.EVERYWHERE).hasToString("everywhere");
    }
}
