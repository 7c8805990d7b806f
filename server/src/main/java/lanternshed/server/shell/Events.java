package lanternshed.server.shell;

import io.swagger.v3.oas.annotations.Operation;
import jakarta.annotation.PreDestroy;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.List;
import java.util.Queue;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.springframework.http.MediaType;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/**
 * Server-sent events to every open page: "work" with its progress, "job" with the id of one that
 * has changed, "errand" when one has made something, "demo" with how far the demonstration is.
 *
 * <p>Nobody waits for a page. Each has a queue of its own; one that does not read fills it, is let
 * go, and asks for everything anew when its browser comes back. What a transaction changes is told
 * when it is committed, so that whoever hears of it also finds it.
 */
@RestController
@Component
public class Events {
  private static final int MOST_PAGES = 100;
  private static final int MOST_WAITING = 64;

  private record Event(String name, Object data) {}

  /** One open page. */
  private final class Page {
    private final SseEmitter emitter = new SseEmitter(0L);
    private final Queue<Event> waiting = new ArrayDeque<>();
    private boolean sending;
    private boolean gone;

    synchronized void tell(Event e) {
      if (gone) return;
      // Progress of one piece of work: only the newest counts.
      if (e.name().equals("work")) waiting.removeIf(w -> w.name().equals("work") && same(w, e));
      if (waiting.size() >= MOST_WAITING) {
        drop();
        return;
      }
      waiting.add(e);
      if (sending) return;
      sending = true;
      senders.execute(this::send);
    }

    private static boolean same(Event a, Event b) {
      return a.data() instanceof Keyed x && b.data() instanceof Keyed y && x.key() == y.key();
    }

    private void send() {
      while (true) {
        Event e;
        synchronized (this) {
          e = waiting.poll();
          if (e == null || gone) {
            sending = false;
            return;
          }
        }
        try {
          emitter.send(
              SseEmitter.event().name(e.name()).data(e.data(), MediaType.APPLICATION_JSON));
        } catch (IOException | IllegalStateException x) {
          drop();
          return;
        }
      }
    }

    private synchronized void drop() {
      gone = true;
      waiting.clear();
      pages.remove(this);
      // Ending it may wait for the very write that hangs: not in anybody's way.
      senders.execute(emitter::complete);
    }
  }

  /** Data of which a newer event takes the place of an older one. */
  public interface Keyed {
    long key();
  }

  private final List<Page> pages = new CopyOnWriteArrayList<>();
  private final ExecutorService senders =
      Executors.newCachedThreadPool(
          r -> {
            Thread t = new Thread(r, "events");
            t.setDaemon(true);
            return t;
          });

  @Operation(hidden = true)
  @GetMapping(path = "/api/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
  SseEmitter listen() {
    if (pages.size() >= MOST_PAGES) pages.get(0).drop();
    Page page = new Page();
    page.emitter.onCompletion(() -> pages.remove(page));
    page.emitter.onError(e -> pages.remove(page));
    page.emitter.onTimeout(() -> pages.remove(page));
    pages.add(page);
    page.tell(new Event("hello", "shed"));
    return page.emitter;
  }

  public void tell(String name, Object data) {
    Event e = new Event(name, data);
    if (!TransactionSynchronizationManager.isSynchronizationActive()) {
      pages.forEach(p -> p.tell(e));
      return;
    }
    TransactionSynchronizationManager.registerSynchronization(
        new TransactionSynchronization() {
          @Override
          public void afterCommit() {
            pages.forEach(p -> p.tell(e));
          }
        });
  }

  @PreDestroy
  void end() {
    senders.shutdownNow();
  }
}
