package tidybridge.core.compare;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;
import tidybridge.core.contract.Contract;

/** Contracts are kept for years: what is written today must be read by every later program. */
class ContractTextTest {

    private static String kept() throws IOException {
        try (InputStream in = ContractTextTest.class.getResourceAsStream("contract-form-1.json")) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8).strip();
        }
    }

    /** The file never changes. When this fails, what is written differs from what was: raise the form, and read both. */
    @Test
    void whatWasKeptInTheFirstFormIsReadAndStillWrittenSo() throws Exception {
        Contract contract = Quay.text().contract();
        assertThat(Contract.read(kept())).isEqualTo(contract);
        assertThat(contract.text()).isEqualTo(kept());
    }

    @Test
    void whatAnotherProgramAddedIsPassedOver() throws Exception {
        String more = kept().replaceFirst("\\{", "{\"colour\":\"red\",");
        assertThat(Contract.read(more)).isEqualTo(Quay.text().contract());
    }

    @Test
    void aFormThatIsNotKnownYetIsRefused() throws Exception {
        String newer = kept().replace("\"form\":1", "\"form\":2");
        assertThatThrownBy(() -> Contract.read(newer)).hasMessageContaining("newer program");
        assertThatThrownBy(() -> Contract.read("{")).isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> Contract.read("null")).isInstanceOf(IllegalArgumentException.class);
    }
}
