package ninepin.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import com.tngtech.archunit.lang.CompositeArchRule;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import ninepin.core.testing.MainSources;

@AnalyzeClasses(packages = "ninepin.core", importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {

    /** Each depends only on those before it. */
    private static final List<String> IN_ORDER = List.of(
            "layout",
            "bytes",
            "value",
            "record",
            "infer",
            "format",
            "check",
            "codes",
            "lookup",
            "pickup",
            "formula",
            "shape",
            "deliver",
            "document",
            "run",
            "job",
            "usable",
            "destination",
            "snapshot",
            "ready",
            "preview",
            "wording",
            "proof");

    /** Each is a package below {@code format} that depends only on those before it. */
    private static final List<String> FORMATS = List.of(
            "xml.parser",
            "xml.schema",
            "xml.proposer",
            "xml",
            "lines",
            "json.schema",
            "json",
            "workbook",
            "fixedlength.copybook",
            "fixedlength",
            "delimited");

    /** What only the packages of formats may ask: which format it is. */
    private static final Pattern ASKS_WHICH_FORMAT = Pattern.compile(
            "instanceof (Delimited|FixedLength|Json|Workbook|Xml)\\b|\\((Delimited|FixedLength|Json|Workbook|Xml)\\) ");

    @ArchTest
    static final ArchRule packages_depend_only_on_those_before_them = CompositeArchRule.of(inOrder());

    private static List<ArchRule> inOrder() {
        List<ArchRule> rules = new ArrayList<>();
        for (int i = 0; i < IN_ORDER.size() - 1; i++) {
            rules.add(noClasses()
                    .that()
                    .resideInAPackage("ninepin.core." + IN_ORDER.get(i) + "..")
                    .should()
                    .dependOnClassesThat()
                    .resideInAnyPackage(IN_ORDER.stream()
                            .skip(i + 1L)
                            .map(p -> "ninepin.core." + p + "..")
                            .toArray(String[]::new)));
        }
        for (int i = 0; i < FORMATS.size(); i++) {
            rules.add(noClasses()
                    .that()
                    .resideInAPackage("ninepin.core.format." + FORMATS.get(i))
                    .should()
                    .dependOnClassesThat()
                    .resideInAnyPackage(Stream.concat(
                                    Stream.of("ninepin.core.format"),
                                    FORMATS.stream().skip(i + 1L).map(p -> "ninepin.core.format." + p))
                            .toArray(String[]::new)));
        }
        return rules;
    }

    @ArchTest
    static final ArchRule destinations_do_not_know_each_other = slices().matching(
                    "ninepin.core.destination.(tables|files|application)")
            .should()
            .notDependOnEachOther();

    /** What only the packages of destinations may ask: which kind it is. */
    private static final Pattern ASKS_WHICH_DESTINATION =
            Pattern.compile("instanceof (Table|File|Application)Delivery\\b|\\((Table|File|Application)Delivery\\) ");

    @ArchTest
    static void nobody_else_asks_which_destination_it_is(JavaClasses classes) {
        assertThat(MainSources.with(ASKS_WHICH_DESTINATION, "/core/destination/"))
                .isEmpty();
    }

    @ArchTest
    static final ArchRule formats_do_not_know_each_other = slices().matching(
                    "ninepin.core.format.(delimited|fixedlength|json|xml)")
            .should()
            .notDependOnEachOther();

    @ArchTest
    static void every_package_has_its_place_in_the_order(JavaClasses classes) {
        assertThat(classes.stream()
                        .map(c -> c.getPackageName().replaceFirst("ninepin\\.core\\.(\\w+).*", "$1"))
                        .distinct())
                .containsExactlyInAnyOrderElementsOf(IN_ORDER);
    }

    /** Sources are read, since a cast leaves too little in the classes. */
    @ArchTest
    static void nobody_else_asks_which_format_it_is(JavaClasses classes) {
        assertThat(MainSources.with(ASKS_WHICH_FORMAT, "/core/format/")).isEmpty();
    }

    /** But for the page of a layout, which shows the elements of XML. */
    @ArchTest
    static void the_interface_asks_which_format_it_is_in_one_folder(JavaClasses classes) {
        Pattern asks = Pattern.compile("format(\\(\\))?\\??\\.kind [!=]==|\\bf\\.kind [!=]==");
        assertThat(MainSources.ofInterface(asks, "/formats/")).containsExactly("layout-page.tsx");
    }

    @ArchTest
    static final ArchRule no_cycles =
            slices().matching("ninepin.core.(**)").should().beFreeOfCycles();

    @ArchTest
    static final ArchRule no_framework_and_no_interface = noClasses()
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage(
                    "org.springframework..", "org.apache.ibatis..", "jakarta..", "javax.servlet..", "ninepin.server..");
}
