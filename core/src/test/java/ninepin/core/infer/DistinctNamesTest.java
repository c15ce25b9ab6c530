package ninepin.core.infer;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DistinctNamesTest {

    /** Ways to places, and their names, both apart by blanks. */
    @ParameterizedTest
    @CsvSource({
        "@no p:name p:place/p:village, no name village",
        "p:id p:order/p:id, id order_id",
        "a/id b/id, a_id b_id",
        "x/party/id y/party/id, x_id y_id",
        "p:buyer/p:name p:seller/p:name p:name, buyer_name seller_name name",
        "code code/@list other/@list, code code_list other_list",
        "a/b/a/c b/a/c c, a_c b_c c",
        "a.b/c-d, c-d",
        "/p:all/p:herd /h:all/h:herd, all_herd all_herd2"
    })
    void a_name_says_what_tells_it_from_others(String paths, String names) {
        assertThat(DistinctNames.of(List.of(paths.split(" ")))).containsExactly(names.split(" "));
    }
}
