package ninepin.server.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import ninepin.server.testing.AccountsProcess;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class FarmAccountsTest {

    @TempDir
    Path folder;

    /** Each would overwrite what the other books. */
    @Test
    void two_do_not_write_one_ledger() throws Exception {
        try (AccountsProcess first = new AccountsProcess(folder)) {
            assertThatThrownBy(() -> new AccountsProcess(folder))
                    .hasMessageContaining("Another Farm Accounts has the ledger");
            assertThat(first.booked()).isEmpty();
        }
        try (AccountsProcess next = new AccountsProcess(folder)) {
            assertThat(next.booked()).isEmpty();
        }
    }
}
