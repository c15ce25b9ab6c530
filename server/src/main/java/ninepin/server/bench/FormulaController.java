package ninepin.server.bench;

import java.util.List;
import ninepin.core.formula.FunctionGuide;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What formulas are made of, whatever the job. */
@RestController
@RequestMapping("/api/formulas")
class FormulaController {

    @GetMapping("/functions")
    List<FunctionGuide> functions() {
        return FunctionGuide.ALL;
    }
}
