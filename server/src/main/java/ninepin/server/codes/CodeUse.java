package ninepin.server.codes;

import java.util.List;

/** Tells which jobs name a code list. */
public interface CodeUse {

    /** The names of the jobs whose draft or live version names a list. */
    List<String> jobsNaming(String list);
}
