package lanternshed.server.work;

import java.util.List;
import lanternshed.server.media.MediumUse;
import org.springframework.stereotype.Component;

/** Work that is not over needs its medium. */
@Component
class WorkMedia implements MediumUse {
  private final WorkRepository works;

  WorkMedia(WorkRepository works) {
    this.works = works;
  }

  @Override
  public List<String> needing(long medium) {
    return works.onMedium(medium).isEmpty()
        ? List.of()
        : List.of("work that is in hand; wait for it or cancel it first");
  }
}
