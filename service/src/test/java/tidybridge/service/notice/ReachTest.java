package tidybridge.service.notice;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.InetAddress;
import java.net.UnknownHostException;
import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What a team writes leads into no network that only the service reaches. */
class ReachTest {

    private static boolean leads(Reach reach, List<String> inside, String address) {
        try {
            InetAddress[] found = reach.resolver(inside).resolve(address);
            return found.length > 0;
        } catch (UnknownHostException e) {
            return false;
        }
    }

    @ParameterizedTest
    @CsvSource({
        "127.0.0.1, false",
        "127.8.9.1, false",
        "0.0.0.0, false",
        "10.1.2.3, false",
        "172.16.0.1, false",
        "192.168.1.1, false",
        "169.254.169.254, false",
        "100.64.0.1, false",
        "192.0.2.1, false",
        "198.18.0.1, false",
        "224.0.0.1, false",
        "255.255.255.255, false",
        "::1, false",
        "::, false",
        "fe80::1, false",
        "fec0::1, false",
        "fd12::1, false",
        "ff02::1, false",
        "::ffff:127.0.0.1, false",
        "::ffff:10.0.0.1, false",
        "64:ff9b::a00:1, false",
        "2002:a00:1::, false",
        "localhost, false",
        "2130706433, false",
        "127.1, false",
        "9.9.9.9, true",
        "2620:fe::fe, true"
    })
    void outsideIsTheOpenInternet(String address, boolean leads) {
        assertThat(leads(Reach.OUTSIDE, List.of(), address)).isEqualTo(leads);
        assertThat(leads(Reach.INSIDE, List.of(), address))
                .as("nothing is inside")
                .isFalse();
        assertThat(leads(Reach.EVERYWHERE, List.of(), address)).isTrue();
    }

    @ParameterizedTest
    @CsvSource({"10.1.2.3, true", "10.2.2.3, false", "::ffff:10.1.2.3, true", "9.9.9.9, false", "fd12::1, true"})
    void namedNetworksAreInside(String address, boolean inside) {
        List<String> named = List.of("10.1.0.0/16", "fd12::/16");
        assertThat(leads(Reach.INSIDE, named, address)).isEqualTo(inside);
        assertThat(leads(Reach.OUTSIDE, named, address)).isEqualTo(inside || address.equals("9.9.9.9"));
    }
}
