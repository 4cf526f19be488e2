package tidybridge.core.advise;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.ColumnType;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.ModuleDefinition;
import tidybridge.core.definition.OperationDefinition;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.definition.RouteDefinition;
import tidybridge.core.definition.StepDefinition;
import tidybridge.core.infer.BindTypes;
import tidybridge.core.infer.TypeFit;
import tidybridge.core.sql.Bind;
import tidybridge.core.sql.Dialect;
import tidybridge.core.sql.SeveralStatements;
import tidybridge.core.sql.Statement;
import tidybridge.core.text.BrokenText;

/** Proposes parameters and types from a source's catalog. What the catalog does not tell is not proposed. */
public final class Proposals {

    private final BindTypes types;
    private final Dialect dialect;

    private Proposals(Contents contents, Dialect dialect) {
        this.types = new BindTypes(contents);
        this.dialect = dialect;
    }

    /** For every operation of a module whose statement can be read, in the order of the text. */
    public static List<Proposal> of(ModuleDefinition module, Contents contents, Dialect dialect) {
        Proposals proposals = new Proposals(contents, dialect);
        List<Proposal> all = new ArrayList<>();
        for (RouteDefinition route : module.routes()) {
            for (OperationDefinition operation : route.operations()) {
                // a bind parameter that several steps use is one parameter
                Set<String> proposed = new HashSet<>();
                for (StepDefinition step : operation.steps()) {
                    for (Proposal proposal : proposals.of(route, operation, step)) {
                        if (proposed.add(proposal.bind())) {
                            all.add(proposal);
                        }
                    }
                }
            }
        }
        return all;
    }

    private List<Proposal> of(RouteDefinition route, OperationDefinition operation, StepDefinition step) {
        Statement statement;
        try {
            statement = Statement.scan(step.sql(), dialect);
        } catch (BrokenText | SeveralStatements e) {
            return List.of();
        }
        Map<String, List<BindTypes.Met>> met = types.of(statement.outline());
        Map<String, ParameterDefinition> known = operation.parameters().stream()
                .collect(Collectors.toMap(ParameterDefinition::name, Function.identity()));
        Set<String> binds =
                statement.binds().stream().map(Bind::name).collect(Collectors.toCollection(LinkedHashSet::new));
        List<Proposal> proposals = new ArrayList<>();
        for (String bind : binds) {
            ParameterDefinition parameter = known.get(bind);
            List<BindTypes.Met> found = met.getOrDefault(bind, List.of());
            boolean untyped = parameter != null && !parameter.typed();
            boolean elsewhere = bind.indexOf('.') >= 0
                    || step.with().stream().anyMatch(with -> with.bind().equals(bind))
                    || types.isHandedBack(statement, bind);
            boolean fits = !found.isEmpty() && found.getFirst().type().fieldType() != FieldType.GEOMETRY;
            if (fits && !elsewhere && (parameter == null || untyped)) {
                proposals.add(proposal(route, operation, statement, found.getFirst(), Optional.ofNullable(parameter)));
            }
        }
        return proposals;
    }

    private static Proposal proposal(
            RouteDefinition route,
            OperationDefinition operation,
            Statement statement,
            BindTypes.Met met,
            Optional<ParameterDefinition> parameter) {
        List<Bind> occurrences = statement.binds().stream()
                .filter(bind -> bind.name().equals(met.bind()))
                .toList();
        boolean list = occurrences.stream().allMatch(Bind::inList);
        ParameterType type = TypeFit.of(met.type().fieldType(), met.type().base());
        String limits = limits(type, met.type());
        String typed = list ? "type: array, items: { " + limits + " }" : limits;
        Proposal.Missing missing = parameter.isPresent() ? Proposal.Missing.TYPE : Proposal.Missing.PARAMETER;
        String definition = switch (missing) {
            case TYPE -> typed;
            case PARAMETER -> {
                boolean inPath = route.path().contains("{" + met.bind() + "}");
                boolean always = occurrences.stream().anyMatch(bind -> bind.when() < 0);
                String in = inPath ? "path" : operation.method().takesBody() ? "body" : "query";
                String need = inPath || !always ? "" : need(met);
                yield "{ in: " + in + ", " + typed + need + about(met.about()) + " }";
            }
        };
        return new Proposal(
                OperationDefinition.label(operation.method(), route.path()),
                met.bind(),
                missing,
                met.where(),
                type,
                list,
                definition);
    }

    /** What is written to a column that may be null, or has a default that can be told, may be left out. */
    private static String need(BindTypes.Met met) {
        Column written = met.written();
        String otherwise = written == null || written.nullable() ? null : literal(written);
        if (otherwise != null) {
            return ", default: " + otherwise;
        }
        return written != null && written.nullable() ? "" : ", required: true";
    }

    /** A column's default as YAML writes it; null for none, and for an expression. */
    private static @Nullable String literal(Column column) {
        String text = column.defaultText();
        if (text == null) {
            return null;
        }
        if (text.matches("-?(0|[1-9]\\d*)(\\.\\d+)?")) {
            return column.type().fieldType() == FieldType.BOOLEAN ? String.valueOf(!text.equals("0")) : text;
        }
        boolean quoted = text.length() >= 2 && text.startsWith("'") && text.endsWith("'");
        return quoted && column.type().fieldType() == FieldType.STRING ? text : null;
    }

    private static String about(String comment) {
        return comment.isBlank()
                ? ""
                : ", about: '" + comment.replace("'", "''").replaceAll("\\s+", " ") + "'";
    }

    /** A column's type and limits in the words of a definition. */
    static String limits(ColumnType column) {
        return limits(TypeFit.of(column.fieldType(), column.base()), column);
    }

    private static String limits(ParameterType type, ColumnType column) {
        String text = "type: " + type.label();
        if (type.isNumber() && column.unsigned()) {
            return text + ", minimum: 0" + (column.base().equals("bigint") ? ", maximum: 18446744073709551615" : "");
        }
        if (type == ParameterType.STRING
                && !column.members().isEmpty()
                && column.base().equals("enum")) {
            return text + ", enum: ["
                    + column.members().stream().map(Proposals::quoted).collect(Collectors.joining(", ")) + "]";
        }
        Long length = column.length();
        if (type == ParameterType.STRING
                && length != null
                && length <= 1_000_000
                && column.members().isEmpty()) {
            return text + ", maxLength: " + length;
        }
        return text;
    }

    private static String quoted(String member) {
        boolean plain =
                member.matches("[A-Za-z][A-Za-z0-9_ -]*") && !member.matches("(?i)true|false|null|yes|no|on|off");
        return plain ? member : "'" + member.replace("'", "''") + "'";
    }
}
