package tidybridge.core.definition;

import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Findings;
import tidybridge.core.text.Nearest;
import tidybridge.core.text.Node;
import tidybridge.core.text.SourceText;

/** Reads the {@code sources} of a workspace, and what its {@code environments} say about them instead. */
public final class SourceReader {

    static final List<String> WORKSPACE_KEYS = List.of("workspace", "sources", "environments", "roles");
    static final List<String> SOURCE_KEYS = List.of(
            "kind",
            "about",
            "host",
            "port",
            "schema",
            "user",
            "secret",
            "connections",
            "patience",
            "timeout",
            "all-timeout",
            "read-only",
            "transport",
            "certificate");
    static final List<String> SECRET_KEYS = List.of("env", "file");
    private static final Duration LONGEST_PATIENCE = Duration.ofMinutes(1);

    private final Findings findings;

    private SourceReader(Findings findings) {
        this.findings = findings;
    }

    /**
     * Reads the sources as they are in one environment, by name in the order of the text.
     *
     * @param text a whole workspace.yaml
     * @param environment one of those it names; null for none, where only {@code sources} counts
     */
    public static Map<String, SourceDefinition> read(SourceText text, @Nullable String environment, Findings findings) {
        return ModuleReader.root(text, findings)
                .flatMap(root -> MappingReader.open(root, "a workspace", findings, WORKSPACE_KEYS))
                .map(keys -> new SourceReader(findings).read(keys, environment))
                .orElse(Map.of());
    }

    Map<String, SourceDefinition> read(MappingReader keys, @Nullable String environment) {
        if (keys.node("sources") == null) {
            keys.required("sources", "Add 'sources:' with the name of each database below it.");
        }
        Map<String, SourceDefinition> sources = named(keys.node("sources"));
        Map<String, Map<String, SourceDefinition>> others = environments(keys, sources);
        if (environment == null) {
            return sources;
        }
        Map<String, SourceDefinition> chosen = others.get(environment);
        if (chosen == null) {
            findings.add(
                    Code.ENVIRONMENT_UNKNOWN,
                    keys.placeOf("environments"),
                    "The workspace has no environment '" + environment + "'."
                            + Nearest.hint(environment, others.keySet()),
                    "Add it under 'environments:', or start the service with another one.");
            return sources;
        }
        Map<String, SourceDefinition> settled = new LinkedHashMap<>(sources);
        chosen.forEach((name, own) -> settled.computeIfPresent(name, (same, below) -> own.over(below)));
        return settled;
    }

    static SourceReader with(Findings findings) {
        return new SourceReader(findings);
    }

    private Map<String, Map<String, SourceDefinition>> environments(
            MappingReader keys, Map<String, SourceDefinition> sources) {
        Map<String, Map<String, SourceDefinition>> all = new LinkedHashMap<>();
        Node node = keys.node("environments");
        if (node == null) {
            return all;
        }
        MappingReader.openAny(node, "environments", findings).ifPresent(names -> {
            for (Node.Entry entry : names.entries()) {
                Map<String, SourceDefinition> own = named(entry.value());
                for (SourceDefinition source : own.values()) {
                    if (!sources.containsKey(source.name())) {
                        findings.add(
                                Code.SOURCE_UNKNOWN,
                                source.place(),
                                "The workspace knows no source '" + source.name() + "'."
                                        + Nearest.hint(source.name(), sources.keySet()),
                                "Add it under 'sources:', or mend the name.");
                    }
                }
                all.put(entry.key(), own);
            }
        });
        return all;
    }

    private Map<String, SourceDefinition> named(@Nullable Node node) {
        Map<String, SourceDefinition> sources = new LinkedHashMap<>();
        if (node == null) {
            return sources;
        }
        MappingReader.openAny(node, "sources", findings).ifPresent(names -> {
            for (Node.Entry entry : names.entries()) {
                if (!entry.key().matches("[a-z][a-z0-9-]{0,62}")) {
                    names.unfit(entry.key(), "is no source name", "Use lower-case letters, digits and hyphens.");
                }
                sources.put(entry.key(), source(entry));
            }
        });
        return sources;
    }

    private SourceDefinition source(Node.Entry entry) {
        return MappingReader.open(entry.value(), "a source", findings, SOURCE_KEYS)
                .map(keys -> new SourceDefinition(
                        entry.key(),
                        entry.place(),
                        keys.oneOf("kind", SourceKind.class, null),
                        keys.text("about"),
                        keys.text("host"),
                        keys.wholeNumber("port", 1, 65_535),
                        keys.text("schema"),
                        keys.text("user"),
                        secret(keys),
                        keys.wholeNumber("connections", 1, SourceDefinition.MOST_CONNECTIONS),
                        time(keys, "patience", LONGEST_PATIENCE),
                        time(keys, "timeout", OperationDefinition.LONGEST_TIMEOUT),
                        time(keys, "all-timeout", PageRule.LONGEST_ALL_TIMEOUT),
                        keys.node("read-only") == null ? null : Boolean.valueOf(keys.flag("read-only")),
                        keys.oneOf("transport", Transport.class, null),
                        keys.text("certificate")))
                .orElse(SourceDefinition.named(entry.key(), entry.place()));
    }

    private static @Nullable Duration time(MappingReader keys, String key, Duration most) {
        Duration time = keys.duration(key, Duration.ZERO, most);
        return time.isZero() ? null : time;
    }

    /** A secret is named; one that stands here in plain sight would be in the version control's history for ever. */
    private @Nullable SecretReference secret(MappingReader keys) {
        Node node = keys.node("secret");
        if (node == null) {
            return null;
        }
        if (node instanceof Node.Scalar) {
            findings.add(
                    Code.SECRET_WRITTEN,
                    node.place(),
                    "A secret must not stand in text.",
                    "Write 'secret: { env: VARIABLE }' or 'secret: { file: PATH }', and change the secret if this text was shared.");
            return null;
        }
        return MappingReader.open(node, "a secret", findings, SECRET_KEYS)
                .map(secret -> {
                    String variable = secret.text("env");
                    String file = secret.text("file");
                    List<SecretReference> found = new ArrayList<>();
                    if (variable != null) {
                        found.add(new SecretReference.Variable(variable));
                    }
                    if (file != null) {
                        found.add(new SecretReference.File(file));
                    }
                    if (found.size() != 1) {
                        keys.unfit("secret", "names one place", "Write 'env: VARIABLE' or 'file: PATH'.");
                        return null;
                    }
                    return found.getFirst();
                })
                .orElse(null);
    }
}
