package tidybridge.service.notice;

import java.net.InetAddress;
import java.net.UnknownHostException;
import java.util.Arrays;
import java.util.List;
import org.apache.hc.client5.http.DnsResolver;
import org.apache.hc.client5.http.SystemDefaultDnsResolver;
import tidybridge.core.access.AddressList;

/**
 * Where a call may lead. What a team writes must not make the service call something that only the service reaches. It is asked when the
 * connection is made, so that a name cannot lead elsewhere after it was looked at.
 */
enum Reach {
    /** For whoever runs the service. */
    EVERYWHERE,
    /** The open internet, and the networks that whoever runs the service names. */
    OUTSIDE,
    /** The named networks only. */
    INSIDE;

    /** Addresses of no machine that is everybody's (RFC 6890), beside those that Java knows. */
    private static final AddressList NOBODYS = AddressList.of(List.of(
            "0.0.0.0/8",
            "100.64.0.0/10",
            "192.0.0.0/24",
            "192.0.2.0/24",
            "198.18.0.0/15",
            "198.51.100.0/24",
            "203.0.113.0/24",
            "240.0.0.0/4",
            "fc00::/7",
            "64:ff9b::/96",
            "64:ff9b:1::/48",
            "2001::/23",
            "2001:db8::/32",
            "2002::/16"));

    /** Finds the addresses of names, and none that may not be called. */
    DnsResolver resolver(List<String> inside) {
        AddressList named = AddressList.of(inside);
        return new SystemDefaultDnsResolver() {
            @Override
            public InetAddress[] resolve(String host) throws UnknownHostException {
                InetAddress[] allowed = Arrays.stream(super.resolve(host))
                        .filter(address -> allows(address, named, !inside.isEmpty()))
                        .toArray(InetAddress[]::new);
                if (allowed.length == 0) {
                    throw new UnknownHostException("it leads to no address that may be called");
                }
                return allowed;
            }
        };
    }

    private boolean allows(InetAddress address, AddressList inside, boolean someInside) {
        boolean named = someInside && inside.contains(address.getHostAddress().replaceFirst("%.*", ""));
        return switch (this) {
            case EVERYWHERE -> true;
            case INSIDE -> named;
            case OUTSIDE -> named || isEverybodys(address);
        };
    }

    private static boolean isEverybodys(InetAddress address) {
        boolean special = address.isLoopbackAddress()
                || address.isAnyLocalAddress()
                || address.isLinkLocalAddress()
                || address.isSiteLocalAddress()
                || address.isMulticastAddress();
        return !special && !NOBODYS.contains(address.getHostAddress());
    }
}
