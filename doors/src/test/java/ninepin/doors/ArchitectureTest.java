package ninepin.doors;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import java.util.regex.Pattern;
import ninepin.core.testing.MainSources;

@AnalyzeClasses(packages = "ninepin.doors", importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {

    /** What only this module may ask: which kind of source it is. */
    private static final Pattern ASKS_WHICH_SOURCE =
            Pattern.compile("instanceof (From\\.)?(Folder|Query)\\b|\\(From\\.(Folder|Query)\\) ");

    @ArchTest
    static final ArchRule doors_do_not_know_each_other =
            slices().matching("ninepin.doors.(folder|query)..").should().notDependOnEachOther();

    @ArchTest
    static final ArchRule no_circles =
            slices().matching("ninepin.(**)").should().beFreeOfCycles();

    @ArchTest
    static final ArchRule doors_know_neither_server_nor_framework = noClasses()
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage(
                    "ninepin.server..", "org.springframework..", "org.apache.ibatis..", "jakarta.servlet..");

    @ArchTest
    static void nobody_else_asks_which_source_it_is(JavaClasses classes) {
        assertThat(MainSources.with(ASKS_WHICH_SOURCE, "/ninepin/doors/")).isEmpty();
    }
}
