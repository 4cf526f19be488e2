package tidybridge.core.compile;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import tidybridge.core.catalog.Catalog;
import tidybridge.core.catalog.Described;
import tidybridge.core.catalog.Field;
import tidybridge.core.contract.Contract;
import tidybridge.core.definition.ModuleReader;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.finding.Finding;
import tidybridge.core.finding.Findings;
import tidybridge.core.plan.ChangePlan;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.ModulePlan;
import tidybridge.core.plan.OperationPlan;

/** Compiles small modules against a catalog that answers what the test says. */
public final class PlanFixture {

    private PlanFixture() {}

    /** What compiling gave. */
    public record Result(Optional<ModulePlan> plan, List<Finding> findings) {
        public OperationPlan operation() {
            return plan.orElseThrow().routes().getFirst().operations().getFirst();
        }

        public CollectionPlan collection() {
            return (CollectionPlan) operation();
        }

        public ChangePlan change() {
            return (ChangePlan) operation();
        }

        public List<String> codes() {
            return findings.stream().map(finding -> finding.code().label()).toList();
        }
    }

    public static Catalog describing(Field... fields) {
        return sql -> new Described.Fields(List.of(fields));
    }

    public static Result compile(String yaml, Map<String, String> statements, Catalog catalog) {
        Map<String, String> files = new java.util.HashMap<>(statements);
        files.put(ModuleText.MAIN, yaml);
        Findings findings = new Findings();
        Optional<ModulePlan> plan = ModuleReader.read(new ModuleText("modules/m/v1", files), findings)
                .flatMap(module -> Compiler.compile(module, catalog, findings));
        return new Result(plan, findings.sorted());
    }

    /** What a module promises, as it comes back from where it is kept. */
    public static Contract promised(ModulePlan plan) {
        Contract contract = Contract.of(plan);
        Contract kept = Contract.read(contract.text());
        assertThat(kept).isEqualTo(contract);
        return kept;
    }
}
