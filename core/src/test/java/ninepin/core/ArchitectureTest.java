package ninepin.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.Architectures.layeredArchitecture;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

@AnalyzeClasses(packages = "ninepin.core", importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {

    @ArchTest
    static final ArchRule packages_depend_only_on_those_before_them = layeredArchitecture()
            .consideringOnlyDependenciesInLayers()
            .layer("layout")
            .definedBy("ninepin.core.layout..")
            .layer("source")
            .definedBy("ninepin.core.source..")
            .layer("read")
            .definedBy("ninepin.core.read..")
            .layer("write")
            .definedBy("ninepin.core.write..")
            .layer("format")
            .definedBy("ninepin.core.format..")
            .layer("infer")
            .definedBy("ninepin.core.infer..")
            .layer("check")
            .definedBy("ninepin.core.check..")
            .layer("codes")
            .definedBy("ninepin.core.codes..")
            .layer("lookup")
            .definedBy("ninepin.core.lookup..")
            .layer("formula")
            .definedBy("ninepin.core.formula..")
            .layer("shape")
            .definedBy("ninepin.core.shape..")
            .layer("deliver")
            .definedBy("ninepin.core.deliver..")
            .layer("document")
            .definedBy("ninepin.core.document..")
            .layer("run")
            .definedBy("ninepin.core.run..")
            .layer("job")
            .definedBy("ninepin.core.job..")
            .whereLayer("job")
            .mayNotBeAccessedByAnyLayer()
            .whereLayer("run")
            .mayOnlyBeAccessedByLayers("job")
            .whereLayer("document")
            .mayOnlyBeAccessedByLayers("run", "job")
            .whereLayer("deliver")
            .mayOnlyBeAccessedByLayers("run", "job")
            .whereLayer("shape")
            .mayOnlyBeAccessedByLayers("deliver", "document", "run", "job")
            .whereLayer("codes")
            .mayOnlyBeAccessedByLayers("formula", "shape", "deliver", "document", "run", "job")
            .whereLayer("formula")
            .mayOnlyBeAccessedByLayers("shape", "deliver", "document", "run", "job")
            .whereLayer("lookup")
            .mayOnlyBeAccessedByLayers("formula", "shape", "deliver", "document", "run", "job")
            .whereLayer("check")
            .mayOnlyBeAccessedByLayers("lookup", "formula", "shape", "deliver", "document", "run", "job")
            .whereLayer("format")
            .mayOnlyBeAccessedByLayers(
                    "infer", "check", "lookup", "formula", "shape", "deliver", "document", "run", "job")
            .whereLayer("infer")
            .mayNotBeAccessedByAnyLayer()
            .whereLayer("write")
            .mayOnlyBeAccessedByLayers(
                    "format", "infer", "check", "formula", "shape", "deliver", "document", "run", "job")
            .whereLayer("read")
            .mayOnlyBeAccessedByLayers(
                    "write",
                    "format",
                    "infer",
                    "check",
                    "lookup",
                    "formula",
                    "shape",
                    "deliver",
                    "document",
                    "run",
                    "job")
            .whereLayer("source")
            .mayOnlyBeAccessedByLayers(
                    "read",
                    "write",
                    "format",
                    "infer",
                    "check",
                    "lookup",
                    "formula",
                    "shape",
                    "deliver",
                    "document",
                    "run",
                    "job");

    @ArchTest
    static final ArchRule no_cycles =
            slices().matching("ninepin.core.(*)..").should().beFreeOfCycles();

    @ArchTest
    static final ArchRule no_framework_and_no_interface = noClasses()
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage(
                    "org.springframework..", "org.apache.ibatis..", "jakarta..", "javax.servlet..", "ninepin.server..");
}
