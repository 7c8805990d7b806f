package lanternshed.server.shell;

import io.swagger.v3.oas.annotations.Operation;
import java.io.IOException;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import org.springframework.http.MediaType;
import org.springframework.stereotype.Component;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/** Server-sent events to every open page: "work" with its progress, "job" when one has changed. */
@RestController
@Component
public class Events {
  private final List<SseEmitter> pages = new CopyOnWriteArrayList<>();

  @Operation(hidden = true)
  @GetMapping(path = "/api/events", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
  SseEmitter listen() {
    SseEmitter page = new SseEmitter(0L);
    page.onCompletion(() -> pages.remove(page));
    page.onError(e -> pages.remove(page));
    page.onTimeout(() -> pages.remove(page));
    pages.add(page);
    send(page, "hello", "shed");
    return page;
  }

  public void tell(String name, Object data) {
    for (SseEmitter page : pages) send(page, name, data);
  }

  private void send(SseEmitter page, String name, Object data) {
    try {
      page.send(SseEmitter.event().name(name).data(data, MediaType.APPLICATION_JSON));
    } catch (IOException | IllegalStateException e) {
      pages.remove(page);
    }
  }
}
