package tidybridge.cli;

import java.util.Map;
import picocli.CommandLine.Mixin;
import tools.jackson.databind.JsonNode;

/** A command that speaks to a running service. */
abstract class ServiceCommand extends TidyCommand {

    @Mixin
    private final ServiceOptions options = new ServiceOptions();

    final Service service() {
        return options.open();
    }

    /** Posts to the management API and reads the answer; a problem ends the command. */
    final JsonNode posted(String path, Map<String, ?> body) {
        return Service.json(Service.expectSuccess(service().post(path, body)));
    }
}
