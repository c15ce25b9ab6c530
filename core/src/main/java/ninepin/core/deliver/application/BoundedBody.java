package ninepin.core.deliver.application;

import java.io.ByteArrayOutputStream;
import java.net.http.HttpResponse.BodySubscriber;
import java.nio.ByteBuffer;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionStage;
import java.util.concurrent.Flow;

/** Takes the first bytes of an answer; the rest is read and dropped. */
final class BoundedBody implements BodySubscriber<byte[]> {

    private final int most;
    private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    private final CompletableFuture<byte[]> body = new CompletableFuture<>();

    /**
     * @param most how many bytes are kept
     */
    BoundedBody(int most) {
        this.most = most;
    }

    @Override
    public CompletionStage<byte[]> getBody() {
        return body;
    }

    @Override
    public void onSubscribe(Flow.Subscription subscription) {
        subscription.request(Long.MAX_VALUE);
    }

    @Override
    public void onNext(List<ByteBuffer> buffers) {
        for (ByteBuffer buffer : buffers) {
            byte[] piece = new byte[Math.min(buffer.remaining(), most - bytes.size())];
            buffer.get(piece);
            bytes.writeBytes(piece);
        }
    }

    @Override
    public void onError(Throwable throwable) {
        body.completeExceptionally(throwable);
    }

    @Override
    public void onComplete() {
        body.complete(bytes.toByteArray());
    }
}
