package ninepin.server;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

@AnalyzeClasses(packages = "ninepin", importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {

    @ArchTest
    static final ArchRule packages_of_the_server_have_no_cycles =
            slices().matching("ninepin.server.(*)..").should().beFreeOfCycles();

    @ArchTest
    static final ArchRule the_core_and_the_stand_ins_know_no_server = noClasses()
            .that()
            .resideInAnyPackage("ninepin.core..", "ninepin.standins..")
            .should()
            .dependOnClassesThat()
            .resideInAPackage("ninepin.server..");

    @ArchTest
    static final ArchRule only_the_demo_knows_the_stand_ins = noClasses()
            .that()
            .resideOutsideOfPackages("ninepin.standins..", "ninepin.server.demo..")
            .should()
            .dependOnClassesThat()
            .resideInAPackage("ninepin.standins..");

    @ArchTest
    static final ArchRule the_command_line_runs_without_the_application = noClasses()
            .that()
            .resideInAPackage("ninepin.server.cli..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("org.springframework..", "ninepin.server.jobs..", "ninepin.server.runs..");

    @ArchTest
    static final ArchRule mappers_are_interfaces_called_so = classes()
            .that()
            .areAnnotatedWith(org.apache.ibatis.annotations.Mapper.class)
            .should()
            .haveSimpleNameEndingWith("Mapper")
            .andShould()
            .beInterfaces();
}
