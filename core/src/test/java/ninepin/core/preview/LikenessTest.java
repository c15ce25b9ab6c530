package ninepin.core.preview;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Set;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Names of target fields and fields that people would match, and those that they would not. */
class LikenessTest {

    @ParameterizedTest(name = "{0} and {1}: {2}")
    @CsvSource({
        "farm_no, FarmNumber, sure",
        "collected_at, Collected at, sure",
        "voucher_no, Voucher, likely",
        "Farm, farm_number, likely",
        "qty, Quantity, sure",
        "booked_on, Day, unsure",
        "cust_addr, Customer address, sure",
        "litres, Litre, sure",
        "temprature, Temperature, likely",
        "voucher_no, Day, none",
        "article, Amount, none",
        "number, Quantity, none",
        "farm_name, Amount, none"
    })
    void names_are_alike_as_far_as_their_words_are(String target, String field, String expected) {
        double likeness = Likeness.of(target, field, Set.of("voucher"));

        assertThat(likeness >= 0.9 ? "sure" : likeness >= 0.6 ? "likely" : likeness >= 0.4 ? "unsure" : "none")
                .as("%s", likeness)
                .isEqualTo(expected);
        assertThat(Likeness.of(field, target, Set.of("voucher"))).isBetween(likeness - 0.2, likeness + 0.2);
    }
}
