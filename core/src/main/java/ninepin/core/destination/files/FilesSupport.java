package ninepin.core.destination.files;

import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import ninepin.core.deliver.Destination;
import ninepin.core.deliver.FileDelivery;
import ninepin.core.deliver.FileDelivery.OutFile;
import ninepin.core.deliver.Places;
import ninepin.core.deliver.TableDescription;
import ninepin.core.deliver.TakenBack;
import ninepin.core.deliver.Target;
import ninepin.core.deliver.TargetException;
import ninepin.core.deliver.file.FileDescription;
import ninepin.core.deliver.file.FileLoad;
import ninepin.core.deliver.file.FileName;
import ninepin.core.deliver.file.FileRehearsal;
import ninepin.core.deliver.file.FileTarget;
import ninepin.core.deliver.file.WrittenFile;
import ninepin.core.destination.support.PastDelivery;
import ninepin.core.destination.support.TargetContext;
import ninepin.core.destination.support.WritesFiles;
import ninepin.core.job.Delivery;
import ninepin.core.job.Job;
import ninepin.core.job.Leg;
import ninepin.core.job.Shortcoming;
import ninepin.core.layout.Layout;
import ninepin.core.shape.RunFacts;

/** Files of one folder and name, which rows are written to as records. */
public record FilesSupport(Job job, Leg leg) implements WritesFiles {

    private OutFile file() {
        return ((FileDelivery) leg.to()).file();
    }

    /** What is written, in order. */
    public List<FileLoad> loads() {
        return leg.parts().stream()
                .map(p -> new FileLoad((FileDelivery) p.to(), p.columns()))
                .toList();
    }

    private FileName.Facts names(RunFacts facts) {
        return new FileName.Facts(
                job.name(),
                facts.runNumber(),
                facts.fileName(),
                facts.today().atTime(facts.startedAt().toLocalTime()));
    }

    @Override
    public List<String> words() {
        return List.of("files " + file().name() + " in " + file().root() + "/" + file().folder());
    }

    @Override
    public String folderLabel() {
        return file().root() + (file().folder().isEmpty() ? "" : "/" + file().folder());
    }

    @Override
    public String root() {
        return file().root();
    }

    @Override
    public String folder() {
        return file().folder();
    }

    /** What goes to another machine is written beside the mark and sent when the run has finished. */
    @Override
    public Path folder(Places places, Path files) throws TargetException {
        return places.isRemote(file().root())
                ? files.resolveSibling(files.getFileName() + ".outbox")
                : places.folder(file().root(), file().folder());
    }

    @Override
    public boolean replaces() {
        return file().replace();
    }

    @Override
    public Charset charset() {
        return file().layout().format().charset().charset();
    }

    @Override
    public Layout layout() {
        return file().layout();
    }

    @Override
    public List<WrittenFile> written(Path files) throws IOException {
        return FileTarget.writtenBy(files);
    }

    @Override
    public Target open(TargetContext at) throws TargetException {
        return new FileTarget(
                folder(at.places(), at.files()),
                loads(),
                at.key(),
                at.files(),
                names(at.facts()),
                at.places().modeOfFiles());
    }

    @Override
    public Target rehearsal(Places places, RunFacts facts) throws TargetException {
        return new FileRehearsal(loads(), names(facts));
    }

    @Override
    public Optional<TableDescription> describe(Destination to, Places places) {
        return Optional.of(FileDescription.of((FileDelivery) to));
    }

    @Override
    public boolean isDescribedElsewhere() {
        return false;
    }

    @Override
    public List<Shortcoming> check(Layout shaped, List<Optional<TableDescription>> described) {
        return new FileReadiness(leg).check();
    }

    @Override
    public Head check(Delivery delivery, int number, Optional<TableDescription> described) {
        return new Head(List.of(), FileDescription.of((FileDelivery) delivery.to()), true, "");
    }

    @Override
    public List<String> obstacles(PastDelivery of) {
        return List.of();
    }

    @Override
    public String unit() {
        return "file";
    }

    @Override
    public int turn() {
        return 2;
    }

    @Override
    public Optional<List<TakenBack>> takeBack(PastDelivery of, PastDelivery.Undoing how)
            throws TargetException, IOException {
        return Optional.of(
                List.of(FileTarget.takeBack(leg.label(), folder(of.places(), of.files()), of.key(), of.files())));
    }
}
