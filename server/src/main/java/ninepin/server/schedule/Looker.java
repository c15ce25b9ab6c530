package ninepin.server.schedule;

/** Looks for files of a job when its schedule says so. */
public interface Looker {

    /** Looks once. */
    void look(String job);
}
