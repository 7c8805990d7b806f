package lanternshed.server.demo;

import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/** How far the demonstration is; where none was asked for there is nothing to lay out. */
@RestController
class DemoController {
  private final DemoLoader demo;

  DemoController(DemoLoader demo) {
    this.demo = demo;
  }

  @GetMapping("/api/demo")
  DemoView demo() {
    return demo.view();
  }
}
