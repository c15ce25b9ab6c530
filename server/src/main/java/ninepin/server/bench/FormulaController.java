package ninepin.server.bench;

import java.util.List;
import ninepin.core.formula.FunctionGuide;
import ninepin.core.wording.Wording;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What formulas are made of, whatever the job. */
@RestController
@RequestMapping("/api/v1/formulas")
class FormulaController {

    /** Instructions of every kind that is understood. */
    @GetMapping("/wordings")
    List<String> wordings() {
        return Wording.examples();
    }

    /** The functions of formulas, with examples. */
    @GetMapping("/functions")
    List<FunctionGuide> functions() {
        return FunctionGuide.ALL;
    }
}
