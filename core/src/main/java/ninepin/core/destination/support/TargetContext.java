package ninepin.core.destination.support;

import java.nio.file.Path;
import ninepin.core.deliver.Places;
import ninepin.core.run.StopSignal;
import ninepin.core.shape.RunFacts;

/**
 * What a target is opened with.
 *
 * @param places where names lead
 * @param facts what is known of the run
 * @param key what the run is known by in the target
 * @param files where the run keeps what a target without transactions needs kept
 */
public record TargetContext(Places places, RunFacts facts, String key, Path files, StopSignal stop) {}
