package tidybridge.service.desk;

import java.time.Instant;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.records.NodeEntry;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.node.Nodes;

/** The services that run over the same records. */
@RestController
class NodesController {

    private final Nodes nodes;

    NodesController(Nodes nodes) {
        this.nodes = nodes;
    }

    /**
     * A node as it told of itself last.
     *
     * @param here whether it is the one that answers
     * @param silentMillis how long ago that was
     * @param liveChange the number of the newest change of what is live that it has taken over
     */
    record NodeView(
            String name,
            String version,
            String state,
            boolean here,
            Instant startedAt,
            long silentMillis,
            long liveChange,
            List<NodeEntry.Trouble> troubles) {

        static NodeView of(Nodes.Standing node) {
            NodeEntry entry = node.entry();
            return new NodeView(
                    entry.name(),
                    entry.version(),
                    node.state().label(),
                    node.here(),
                    entry.startedAt(),
                    entry.silentFor().toMillis(),
                    entry.liveChange(),
                    entry.troubles());
        }
    }

    record NodeViews(List<NodeView> nodes) {}

    @GetMapping("/desk/nodes")
    @DeskNeeds(ServicePrivilege.READ)
    NodeViews all() {
        return new NodeViews(nodes.all().stream().map(NodeView::of).toList());
    }
}
