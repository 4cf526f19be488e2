package tidybridge.core.access;

import java.net.InetAddress;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Networks from which somebody may call, in CIDR notation (RFC 4632, RFC 4291). An empty list is every address. Immutable and thread-safe. */
public final class AddressList {

    /** Every address. */
    public static final AddressList EVERYWHERE = new AddressList(List.of(), List.of());

    private static final int BITS_A_BYTE = 8;
    private static final int IPV4_BYTES = 4;
    private static final Pattern BITS = Pattern.compile("0|[1-9]\\d{0,2}");

    private final List<String> written;
    private final List<Network> networks;

    private record Network(byte[] address, int bits) {

        boolean contains(byte[] other) {
            if (other.length != address.length) {
                return false;
            }
            for (int bit = 0; bit < bits; bit += BITS_A_BYTE) {
                int index = bit / BITS_A_BYTE;
                int mask = bits - bit >= BITS_A_BYTE ? 0xff : 0xff << BITS_A_BYTE - (bits - bit) & 0xff;
                if ((other[index] & mask) != (address[index] & mask)) {
                    return false;
                }
            }
            return true;
        }
    }

    private AddressList(List<String> written, List<Network> networks) {
        this.written = List.copyOf(written);
        this.networks = List.copyOf(networks);
    }

    /** Reads a list; one of its texts that is no network is left out, so check them with {@link #isNetwork} first. */
    public static AddressList of(Collection<String> texts) {
        List<String> written = new ArrayList<>();
        List<Network> networks = new ArrayList<>();
        for (String text : texts) {
            network(text).ifPresent(network -> {
                written.add(text);
                networks.add(network);
            });
        }
        return networks.isEmpty() ? EVERYWHERE : new AddressList(written, networks);
    }

    /** True for {@code 10.0.0.0/8}, {@code 2001:db8::/32}, and a single address. */
    public static boolean isNetwork(String text) {
        return network(text).isPresent();
    }

    private static Optional<Network> network(String text) {
        int slash = text.indexOf('/');
        Optional<byte[]> address = bytes(slash < 0 ? text : text.substring(0, slash));
        if (address.isEmpty()) {
            return Optional.empty();
        }
        int most = address.get().length * BITS_A_BYTE;
        String bits = slash < 0 ? String.valueOf(most) : text.substring(slash + 1);
        boolean good = BITS.matcher(bits).matches() && Integer.parseInt(bits) <= most;
        return good ? Optional.of(new Network(address.get(), Integer.parseInt(bits))) : Optional.empty();
    }

    /** The bytes of an address without asking anybody for a name; an IPv4 address that is written as IPv6 is IPv4. */
    private static Optional<byte[]> bytes(String text) {
        if (text.indexOf(':') < 0) {
            return Optional.ofNullable(figures(text));
        }
        try {
            return text.indexOf('%') < 0
                    ? Optional.of(InetAddress.ofLiteral(text).getAddress())
                    : Optional.empty();
        } catch (IllegalArgumentException e) {
            return Optional.empty();
        }
    }

    /** Reads four numbers with dots between them, by hand because calls are; null for what is none. */
    private static byte @Nullable [] figures(String text) {
        byte[] bytes = new byte[IPV4_BYTES];
        int part = 0;
        int number = -1;
        for (int i = 0; i <= text.length(); i++) {
            char c = i == text.length() ? '.' : text.charAt(i);
            if (c == '.') {
                if (number < 0 || part == IPV4_BYTES) {
                    return null;
                }
                bytes[part++] = (byte) number;
                number = -1;
            } else if (c < '0' || c > '9' || number == 0) {
                return null;
            } else {
                number = number < 0 ? c - '0' : 10 * number + c - '0';
                if (number > 0xff) {
                    return null;
                }
            }
        }
        return part == IPV4_BYTES ? bytes : null;
    }

    /** True when an address, written in figures, is in one of the networks. */
    public boolean contains(String address) {
        if (networks.isEmpty()) {
            return true;
        }
        int zone = address.indexOf('%');
        Optional<byte[]> bytes = bytes(zone < 0 ? address : address.substring(0, zone));
        if (bytes.isPresent()) {
            for (Network network : networks) {
                if (network.contains(bytes.get())) {
                    return true;
                }
            }
        }
        return false;
    }

    /** As it was written; empty for every address. */
    public List<String> written() {
        return written;
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof AddressList list && written.equals(list.written);
    }

    @Override
    public int hashCode() {
        return written.hashCode();
    }

    @Override
    public String toString() {
        return networks.isEmpty() ? "everywhere" : String.join(", ", written);
    }
}
