package tidybridge.core.definition;

import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.Node;
import tidybridge.core.text.Place;
import tidybridge.core.text.SourceText;
import tidybridge.core.text.YamlText;

/** Reads one module's text. The entry for a service that was sent a {@link ModuleText}, and for {@link WorkspaceReader}. */
public final class ModuleReader {

    static final List<String> MODULE_KEYS = List.of(
            "module",
            "version",
            "title",
            "about",
            "owner",
            "contact",
            "terms",
            "tags",
            "listed",
            "source",
            "addresses",
            "tls",
            "cross-origin",
            "quota",
            "needs",
            "public",
            "page",
            "timeout",
            "names",
            "chosen-fields",
            "formats",
            "conditions",
            "deprecated",
            "review",
            "assistants",
            "accept",
            "routes");
    static final List<String> OPERATION_KEYS = List.of(
            "id",
            "needs",
            "public",
            "quota",
            "about",
            "sql",
            "with",
            "changes",
            "results",
            "steps",
            "answered-by",
            "answer",
            "status",
            "location",
            "reply",
            "tag",
            "modified",
            "fresh",
            "names",
            "show",
            "fields",
            "file",
            "promise",
            "order",
            "page",
            "sort",
            "search",
            "filter",
            "filter-at",
            "total",
            "total-timeout",
            "chosen-fields",
            "formats",
            "timeout",
            "transaction",
            "isolation",
            "precondition",
            "idempotency-key",
            "batch",
            "preview",
            "conditions",
            "parameters",
            "assistants",
            "deprecated",
            "accept");
    static final List<String> METHOD_KEYS = List.of("get", "post", "put", "patch", "delete");
    static final List<String> ROUTE_KEYS = List.of("get", "post", "put", "patch", "delete", "needs", "public");
    private static final int LONGEST_GUIDE = 100_000;
    private static final String ID_PATTERN = "[A-Za-z][A-Za-z0-9_]{0,99}";
    private static final String NAME_PATTERN = "[a-z][a-z0-9-]{0,62}";

    private final ModuleText text;
    private final Findings findings;
    private final Set<String> usedFiles = new HashSet<>();

    /** What operations take from their module unless they say otherwise. */
    private record Usual(
            PageRule page,
            Duration timeout,
            NameStyle names,
            OfferRule offers,
            List<ConditionRule> conditions,
            boolean withheld) {}

    private ModuleReader(ModuleText text, Findings findings) {
        this.text = text;
        this.findings = findings;
    }

    /**
     * Reads the module; everything unfit becomes a finding.
     *
     * @return the definition with all that could be read, or empty when nothing sensible could. It may only be published when
     *     no error was added.
     */
    public static Optional<ModuleDefinition> read(ModuleText text, Findings findings) {
        return new ModuleReader(text, findings).read();
    }

    private Optional<ModuleDefinition> read() {
        SourceText source = text.source(ModuleText.MAIN);
        return root(source, findings)
                .flatMap(root -> MappingReader.open(root, "a module", findings, MODULE_KEYS))
                .flatMap(this::module);
    }

    /** Anybody may read a guide, and it is drawn anew for a release. */
    private void checkGuides() {
        text.files().forEach((file, guide) -> {
            if (ModuleText.isGuide(file) && guide.length() > LONGEST_GUIDE) {
                findings.add(
                        Code.VALUE_UNFIT,
                        Place.of(text.source(file).file()),
                        "The guide is longer than " + LONGEST_GUIDE + " characters.",
                        "Make two of it; readers look for one thing at a time.");
            }
        });
    }

    private void mentionUnused() {
        for (String file : text.files().keySet()) {
            if (!file.equals(ModuleText.MAIN) && !ModuleText.isGuide(file) && !usedFiles.contains(file)) {
                findings.add(
                        Code.FILE_UNUSED,
                        Place.of(text.source(file).file()),
                        "No operation uses this statement.",
                        "Name it under 'sql:' of an operation, or delete the file.");
            }
        }
    }

    /** Reads a YAML file's root; a broken or empty one becomes a finding. */
    static Optional<Node> root(SourceText source, Findings findings) {
        try {
            Optional<Node> root = YamlText.read(source);
            if (root.isEmpty()) {
                findings.add(
                        Code.NOTHING_DEFINED,
                        source.at(0),
                        "The file is empty.",
                        "Write the definition, or delete the file.");
            }
            return root;
        } catch (BrokenText e) {
            findings.add(
                    Code.YAML_BROKEN,
                    e.place(),
                    "This is not readable YAML: " + e.reason() + ".",
                    "Mend the line; indent with spaces, and put quotes around texts with ':' or '#'.");
            return Optional.empty();
        }
    }

    private Optional<ModuleDefinition> module(MappingReader keys) {
        String name = keys.required("module", "Add 'module: name', the name in the URL.");
        if (name != null && !name.matches(NAME_PATTERN)) {
            keys.unfit("module", "must be lower-case letters, digits and hyphens", "Use a name such as 'moorings'.");
        }
        Version version = version(keys);
        String title = keys.required("title", "Add 'title: ...', the heading of the reference.");
        String source = keys.required("source", "Add 'source: name', the database its statements run against.");
        PageRule page = PageReader.read(keys, PageRule.DEFAULT, findings);
        Duration timeout =
                keys.duration("timeout", OperationDefinition.DEFAULT_TIMEOUT, OperationDefinition.LONGEST_TIMEOUT);
        NameStyle names = keys.oneOf("names", NameStyle.class, NameStyle.AS_WRITTEN);
        OfferRule offers = OfferRule.read(keys, OfferRule.NONE);
        List<Acceptance> accepted = new AcceptanceReader(findings).read(keys);
        List<ConditionRule> conditions = new RefusalReader(findings).conditions(keys, true);
        boolean withheld = keys.oneOf("assistants", Assistants.class, null) == Assistants.WITHHELD;
        List<RouteDefinition> routes = routes(
                keys,
                new Usual(page, timeout, names == null ? NameStyle.AS_WRITTEN : names, offers, conditions, withheld));
        mentionUnused();
        checkGuides();
        if (name == null || version == null || title == null || source == null) {
            return Optional.empty();
        }
        return Optional.of(new ModuleDefinition(
                name,
                version,
                title,
                keys.text("about"),
                new ListingReader(keys, findings).read(),
                source,
                keys.placeOf("source"),
                new AdmissionReader(findings).read(keys),
                new AccessReader(findings).rule(keys),
                keys.placeOf("module"),
                new DeprecationReader(keys, findings).read(DeprecationReader.Of.MODULE),
                keys.flag("review"),
                accepted,
                routes));
    }

    private static @Nullable Version version(MappingReader keys) {
        String text = keys.required("version", "Add 'version: 1.0.0'.");
        if (text == null) {
            return null;
        }
        Optional<Version> version = Version.parse(text);
        if (version.isEmpty()) {
            keys.unfit("version", "must be three numbers", "Write it as 'version: 1.0.0'.");
        }
        return version.orElse(null);
    }

    private List<RouteDefinition> routes(MappingReader keys, Usual usual) {
        Node node = keys.node("routes");
        if (node == null) {
            findings.add(
                    Code.NOTHING_DEFINED,
                    keys.place(),
                    "The module has no routes.",
                    "Add 'routes:' with a path such as '/berths:' and a method below it.");
            return List.of();
        }
        List<RouteDefinition> routes = new ArrayList<>();
        MappingReader.openAny(node, "routes", findings).ifPresent(paths -> {
            for (Node.Entry entry : paths.entries()) {
                routes.add(route(entry, usual));
            }
        });
        return routes;
    }

    private RouteDefinition route(Node.Entry entry, Usual usual) {
        List<OperationDefinition> operations = new ArrayList<>();
        Optional<MappingReader> keys = MappingReader.open(entry.value(), "a route", findings, ROUTE_KEYS);
        keys.ifPresent(methods -> {
            for (Node.Entry entered : methods.entries()) {
                int index = METHOD_KEYS.indexOf(entered.key());
                if (index >= 0) {
                    Method method = Method.values()[index];
                    findings.of(
                            OperationDefinition.label(method, entry.key()),
                            () -> operation(method, entered, usual).ifPresent(operations::add));
                }
            }
        });
        AccessRule access = keys.map(new AccessReader(findings)::rule)
                .orElseGet(() -> new AccessRule(null, List.of(), entry.place()));
        return new RouteDefinition(entry.key(), entry.place(), access, operations);
    }

    private Optional<OperationDefinition> operation(Method method, Node.Entry entry, Usual usual) {
        return MappingReader.open(entry.value(), "an operation", findings, OPERATION_KEYS)
                .flatMap(keys -> operation(method, entry, keys, usual));
    }

    private Optional<OperationDefinition> operation(Method method, Node.Entry entry, MappingReader keys, Usual usual) {
        AnswerDefinition answer = new AnswerReader(keys, findings).read(usual.names(), usual.offers());
        CollectionRules collection = new CollectionReader(keys, findings)
                .read(usual.page(), answer == null || answer.kind() == AnswerKind.ROWS);
        Duration timeout = keys.duration("timeout", usual.timeout(), OperationDefinition.LONGEST_TIMEOUT);
        Node parametersNode = keys.node("parameters");
        List<ParameterDefinition> parameters =
                parametersNode == null ? List.of() : new ParameterReader(findings).read(parametersNode);
        StepReader stepReader = new StepReader(text, findings);
        List<StepDefinition> steps = stepReader.read(keys);
        usedFiles.addAll(stepReader.usedFiles());
        int answeredBy = stepReader.answeredBy(keys, steps);
        ReplyRule reply = new ReplyReader(keys, findings).read();
        ChangeRules change = new ChangeReader(keys, findings).read(usual.conditions(), entry.place());
        Deprecation deprecated = new DeprecationReader(keys, findings).read(DeprecationReader.Of.OPERATION);
        List<Acceptance> accepted = new ArrayList<>(new AcceptanceReader(findings).read(keys));
        if (answer == null || steps.isEmpty()) {
            return Optional.empty();
        }
        return Optional.of(new OperationDefinition(
                method,
                entry.place(),
                new AccessReader(findings).rule(keys),
                new AdmissionReader(findings).quota(keys),
                id(keys),
                keys.text("about"),
                steps,
                answeredBy,
                answer,
                collection,
                timeout,
                parameters,
                reply,
                change,
                assistants(keys, usual, answer.kind()),
                deprecated,
                accepted));
    }

    private static @Nullable Assistants assistants(MappingReader keys, Usual usual, AnswerKind answer) {
        Assistants said = keys.oneOf("assistants", Assistants.class, usual.withheld() ? Assistants.WITHHELD : null);
        if (said == Assistants.OFFERED && answer == AnswerKind.FILE) {
            keys.unfit(
                    "assistants",
                    "cannot be 'offered' where a file is answered, which assistants do not read",
                    "Leave it out, or offer an operation that answers rows.");
            return Assistants.WITHHELD;
        }
        return said;
    }

    private static @Nullable String id(MappingReader keys) {
        String id = keys.text("id");
        if (id != null && !id.matches(ID_PATTERN)) {
            keys.unfit(
                    "id",
                    "must be a name that any programming language takes",
                    "Write letters and digits, as in 'listBerths'.");
            return null;
        }
        return id;
    }
}
