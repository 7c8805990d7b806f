package lanternshed.server.work;

import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import lanternshed.core.work.Rescue;
import lanternshed.server.shell.Json;
import org.springframework.stereotype.Component;

/** What is wished of each rescue that runs; asked before every read, so it is kept at hand. */
@Component
class Wishes {
  private final Map<Long, Rescue.Wish> now = new ConcurrentHashMap<>();

  Rescue.Wish of(WorkEntity w) {
    return now.computeIfAbsent(w.id(), id -> kept(w));
  }

  static Rescue.Wish kept(WorkEntity w) {
    return w.wish().isEmpty() ? Rescue.Wish.USUAL : Json.read(w.wish(), Rescue.Wish.class);
  }

  void set(long work, Rescue.Wish wish) {
    now.put(work, wish);
  }

  void forget(long work) {
    now.remove(work);
  }
}
