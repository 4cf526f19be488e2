package tidybridge.cli;

import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Mixin;
import tools.jackson.databind.JsonNode;

/** A command that speaks to a running service. */
abstract class ServiceCommand extends TidyCommand {

    @Mixin
    private final ServiceOptions options = new ServiceOptions();

    private @Nullable Service service;

    final Service service() {
        Service open = service;
        if (open == null) {
            open = options.open();
            service = open;
        }
        return open;
    }

    /** Ends the connection to the service, if there is one. */
    final void hangUp() {
        if (service != null) {
            service.close();
        }
    }

    /** Posts to the management API and reads the answer; a problem ends the command. */
    final JsonNode posted(String path, Map<String, ?> body) {
        return Service.json(Service.expectSuccess(service().post(path, body)));
    }
}
