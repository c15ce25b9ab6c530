package ninepin.server.runs;

import java.io.IOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.stream.Stream;
import ninepin.server.runs.RunMapper.RunRow;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Moves the files of runs to where the record says. The intent is written down with the change of state that it belongs to, then
 * the file is moved, then the record says where it is; so a move that was broken off at any instant is gone on with.
 */
@Component
class FileMoves {

    private static final Logger LOG = LoggerFactory.getLogger(FileMoves.class);

    private static final int LOCKS = 64;

    private final RunMapper mapper;
    private final Object[] locks = Stream.generate(Object::new).limit(LOCKS).toArray();

    FileMoves(RunMapper mapper) {
        this.mapper = mapper;
    }

    /**
     * Brings the file of a run to where it is to be.
     *
     * @return where it is now
     * @throws NoSuchFileException where it is gone
     */
    Path settle(long run) throws IOException {
        // The thread that has ended a run and the one that looks after everything may come at the same moment.
        synchronized (locks[(int) (run % locks.length)]) {
            return settleAlone(run);
        }
    }

    private Path settleAlone(long run) throws IOException {
        while (true) {
            RunRow row = mapper.find(run).orElseThrow();
            if (row.movingTo() == null) {
                return Path.of(row.filePath());
            }
            Path from = Path.of(row.filePath());
            Path to = Path.of(row.movingTo());
            try {
                FileHome.move(from, to);
                if (mapper.moved(run, row.movingTo(), row.movingTo()) == 0 && isSaidToBeAt(run, from)) {
                    // The record wants it elsewhere by now; unless another process has put this very move on record.
                    FileHome.move(to, from);
                }
            } catch (FileAlreadyExistsException e) {
                // Another run of the job has taken the name since.
                FileHome home = new FileHome(Path.of(row.fileHome()));
                Path other = home.free(to.getParent().getFileName().toString(), row.fileName());
                mapper.moveElsewhere(run, row.movingTo(), other.toString());
            }
        }
    }

    private boolean isSaidToBeAt(long run, Path file) {
        return mapper.find(run).orElseThrow().filePath().equals(file.toString());
    }

    /** Goes on with what was broken off, of runs that nobody works on. */
    void settleAll() {
        for (RunRow row : mapper.moving()) {
            if (row.state() == RunState.RUNNING) {
                continue;
            }
            try {
                settle(row.id());
            } catch (NoSuchFileException e) {
                if (row.state() != RunState.WAITING && row.state() != RunState.PAUSED) {
                    LOG.warn("The file of run {} is gone: {}", row.id(), row.filePath());
                    mapper.moved(row.id(), row.movingTo(), row.filePath());
                }
            } catch (IOException e) {
                LOG.warn("{} cannot be moved now and is tried again: {}", row.fileName(), e.toString());
            }
        }
    }
}
