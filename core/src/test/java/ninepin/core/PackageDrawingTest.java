package ninepin.core;

import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.Dependency;
import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;

/**
 * The drawing of the packages in CONTRIBUTING is that of the code: an arrow for each package that another needs, but for those that
 * it has through others anyway. Written by {@code -Dninepin.write-pages=true}.
 */
class PackageDrawingTest {

    private static final Path PAGE = Path.of("..", "CONTRIBUTING.md");
    private static final String BEGIN = "<!-- packages: begin -->\n";
    private static final String END = "<!-- packages: end -->";

    private static Map<String, Set<String>> needs() {
        JavaClasses classes = new ClassFileImporter()
                .withImportOption(new ImportOption.DoNotIncludeTests())
                .importPackages("ninepin.core");
        Map<String, Set<String>> needs = new TreeMap<>();
        for (JavaClass of : classes) {
            Set<String> own = needs.computeIfAbsent(top(of.getPackageName()), p -> new TreeSet<>());
            for (Dependency dependency : of.getDirectDependenciesFromSelf()) {
                String other = dependency.getTargetClass().getPackageName();
                if (other.startsWith("ninepin.core.") && !top(other).equals(top(of.getPackageName()))) {
                    own.add(top(other));
                }
            }
        }
        return needs;
    }

    private static String top(String packageName) {
        return packageName.substring("ninepin.core.".length()).split("\\.")[0];
    }

    private static Set<String> all(Map<String, Set<String>> needs, String of) {
        Set<String> all = new HashSet<>();
        for (String one : needs.get(of)) {
            all.add(one);
            all.addAll(all(needs, one));
        }
        return all;
    }

    private static String drawing() {
        Map<String, Set<String>> needs = needs();
        StringBuilder drawing = new StringBuilder(BEGIN).append("```mermaid\ngraph BT\n");
        needs.forEach((of, own) -> {
            for (String one : own) {
                boolean throughOthers = own.stream().filter(o -> !o.equals(one)).anyMatch(o -> all(needs, o)
                        .contains(one));
                if (!throughOthers) {
                    drawing.append("  ").append(of).append(" --> ").append(one).append('\n');
                }
            }
        });
        return drawing.append("```\n").append(END).toString();
    }

    @Test
    void the_drawing_is_that_of_the_code() throws IOException {
        String page = Files.readString(PAGE);
        int from = page.indexOf(BEGIN);
        int to = page.indexOf(END) + END.length();
        String drawn = page.substring(0, from) + drawing() + page.substring(to);
        if (Boolean.getBoolean("ninepin.write-pages")) {
            Files.writeString(PAGE, drawn);
        }
        assertThat(page).as("written by -Dninepin.write-pages=true").isEqualTo(drawn);
    }
}
