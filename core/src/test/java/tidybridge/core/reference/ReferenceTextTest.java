package tidybridge.core.reference;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import tidybridge.core.compile.PlanFixture;
import tidybridge.core.contract.Contract;

class ReferenceTextTest {

    private static final Contract BERTHS = PlanFixture.promised(OpenApiTest.plan(OpenApiTest.YAML));
    private static final ReferenceText TEXT = ReferenceText.of(BERTHS);

    private static OperationText operation(String label) {
        return TEXT.operation(BERTHS.operations().stream()
                .filter(one -> one.label().equals(label))
                .findFirst()
                .orElseThrow());
    }

    private static String input(String label, String name) {
        return operation(label).inputs().stream()
                .filter(input -> input.name().equals(name))
                .map(input -> String.join(
                        " | ",
                        input.place(),
                        input.type(),
                        input.required() ? "required" : "optional",
                        String.join("; ", input.limits()),
                        String.valueOf(input.usual()),
                        String.valueOf(input.example())))
                .findFirst()
                .orElse("none");
    }

    @Test
    void inputsTellTheirPlaceTypeLimitsAndExample() {
        assertThat(input("GET /berths", "from")).isEqualTo("query | string, date | required |  | null | 2031-05-01");
        assertThat(input("GET /berths", "least"))
                .isEqualTo("query | number | optional | at least 0; at most 99.5 | 1.50 | null");
        assertThat(input("GET /berths", "kind"))
                .isEqualTo("query | string | optional | up to 10 characters; matches ^.; one of a, b | null | null");
        assertThat(input("POST /berths/search", "/names"))
                .isEqualTo(
                        "body | array of string | optional | up to 3 items; no item twice; each up to 5 characters | null | a,b");
        assertThat(input("POST /berths/search", "/size/least"))
                .isEqualTo("body | number | required | more than 0; a multiple of 0.5 | null | 1");
        assertThat(input("POST /berths/search", "/note")).startsWith("body | string or null |");
        assertThat(input("POST /berths/search", "who"))
                .as("what the service itself knows")
                .isEqualTo("none");
    }

    @Test
    void fieldsTellTheirTypeAndWhatIsHidden() {
        assertThat(operation("POST /berths/search").fields().stream()
                        .map(field -> field.name() + ": " + field.type() + ", " + field.mask())
                        .collect(Collectors.toList()))
                .containsExactly(
                        "f_integer: integer, null",
                        "f_string: string, Shown as **** and its last 2 characters, but to holders of moorings.see as it is.",
                        "money.amount: string, a number, null",
                        "when.day: string, date or null, null");
        assertThat(operation("GET /berths").fields())
                .anySatisfy(field -> assertThat(field.type()).isEqualTo("any JSON"));
    }

    @Test
    void statusesTellTheirCauseAndWhatComesWithThem() {
        List<StatusText> statuses = operation("GET /berths/{berthId}").statuses();
        assertThat(statuses)
                .extracting(StatusText::status)
                .contains("200", "400", "401", "404", "503")
                .endsWith("default");
        assertThat(statuses)
                .filteredOn(status -> status.status().equals("404"))
                .singleElement()
                .satisfies(status -> {
                    assertThat(status.problem()).isEqualTo("row-unknown");
                    assertThat(status.meaning()).startsWith("The route is right");
                });
        assertThat(statuses)
                .filteredOn(status -> status.status().equals("503"))
                .singleElement()
                .satisfies(status -> assertThat(status.headers())
                        .extracting(StatusText.Rule::name)
                        .contains("Retry-After"));
    }

    @Test
    void everyOperationOfTheContractHasAPageThatSaysWhatOpenApiSays() {
        assertThat(TEXT.tags().stream().flatMap(tag -> tag.operations().stream()))
                .hasSameSizeAs(BERTHS.operations());
        BERTHS.operations().forEach(terms -> {
            OperationText text = TEXT.operation(TEXT.terms(terms.id()).orElseThrow());
            assertThat(text.fields())
                    .as(text.label())
                    .hasSameSizeAs(terms.answer().fields());
            assertThat(text.facts()).extracting(OperationText.Fact::term).contains("Access");
            assertThat(text.inputs())
                    .extracting(InputText::anchor)
                    .doesNotHaveDuplicates()
                    .allMatch(anchor -> anchor.matches("[A-Za-z0-9._-]+"));
        });
    }
}
