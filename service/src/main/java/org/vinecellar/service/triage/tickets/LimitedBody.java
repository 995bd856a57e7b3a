package org.vinecellar.service.triage.tickets;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.http.HttpResponse.BodySubscriber;
import java.nio.ByteBuffer;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionStage;
import java.util.concurrent.Flow;
import org.jspecify.annotations.Nullable;

/** Takes a body of so many bytes at most. */
final class LimitedBody implements BodySubscriber<byte[]> {
  private final int most;
  private final CompletableFuture<byte[]> whole = new CompletableFuture<>();
  private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();
  private Flow.@Nullable Subscription subscription;

  /** A body was longer. */
  static final class TooLongException extends IOException {
    private static final long serialVersionUID = 1L;
  }

  LimitedBody(int most) {
    this.most = most;
  }

  @Override
  public CompletionStage<byte[]> getBody() {
    return whole;
  }

  @Override
  public void onSubscribe(Flow.Subscription to) {
    subscription = to;
    to.request(Long.MAX_VALUE);
  }

  @Override
  public void onNext(List<ByteBuffer> items) {
    for (ByteBuffer item : items) {
      if (bytes.size() + item.remaining() > most) {
        if (subscription != null) {
          subscription.cancel();
        }
        whole.completeExceptionally(new TooLongException());
        return;
      }
      byte[] some = new byte[item.remaining()];
      item.get(some);
      bytes.writeBytes(some);
    }
  }

  @Override
  public void onError(Throwable why) {
    whole.completeExceptionally(why);
  }

  @Override
  public void onComplete() {
    whole.complete(bytes.toByteArray());
  }
}
