package lanternshed.server.fault;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import lanternshed.core.fault.Judged;
import lanternshed.core.fault.StartLog;
import lanternshed.core.fault.Symptom;
import lanternshed.server.fault.FaultService.Board;
import lanternshed.server.fault.FaultService.PartText;
import lanternshed.server.fault.FaultService.TrialText;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The fault board; every change answers with the board as it is then. */
@RestController
class FaultController {
  private final FaultService fault;

  FaultController(FaultService fault) {
    this.fault = fault;
  }

  record NewTrial(@NotNull @Size(max = 60) String author, @NotNull @Valid TrialText text) {}

  record NewIdea(
      @NotNull @Size(max = 60) String author,
      @NotBlank @Size(max = 200) String text,
      @NotBlank @Size(max = 400) String reason) {}

  record LogText(@NotBlank @Size(max = 1_000_000) String text) {}

  @GetMapping("/api/jobs/{job}/fault")
  Board board(@PathVariable long job) {
    fault.lay(job);
    return fault.board(job);
  }

  @PostMapping("/api/jobs/{job}/fault/parts")
  Board addPart(@PathVariable long job, @RequestBody @Valid PartText text) {
    fault.addPart(job, text);
    return fault.board(job);
  }

  @PutMapping("/api/jobs/{job}/fault/parts/{id}")
  Board changePart(
      @PathVariable long job,
      @PathVariable long id,
      @RequestParam long version,
      @RequestBody @Valid PartText text) {
    fault.changePart(job, id, version, text);
    return fault.board(job);
  }

  @DeleteMapping("/api/jobs/{job}/fault/parts/{id}")
  Board removePart(@PathVariable long job, @PathVariable long id, @RequestParam boolean undo) {
    fault.removePart(job, id, !undo);
    return fault.board(job);
  }

  @PostMapping("/api/jobs/{job}/fault/tests")
  Board addTrial(@PathVariable long job, @RequestBody @Valid NewTrial n) {
    // Two people may take the next number at the same moment; the later one takes the one after.
    for (int again = 0; ; again++) {
      try {
        fault.addTrial(job, n.text(), author(n.author()));
        return fault.board(job);
      } catch (DataIntegrityViolationException e) {
        if (again == 20) throw e;
      }
    }
  }

  @PutMapping("/api/jobs/{job}/fault/tests/{id}")
  Board changeTrial(
      @PathVariable long job,
      @PathVariable long id,
      @RequestParam long version,
      @RequestBody @Valid TrialText text) {
    fault.changeTrial(job, id, version, text);
    return fault.board(job);
  }

  @DeleteMapping("/api/jobs/{job}/fault/tests/{id}")
  Board removeTrial(@PathVariable long job, @PathVariable long id, @RequestParam boolean undo) {
    fault.removeTrial(job, id, !undo);
    return fault.board(job);
  }

  @PostMapping("/api/jobs/{job}/fault/ideas")
  Board addIdea(@PathVariable long job, @RequestBody @Valid NewIdea n) {
    fault.addIdea(job, n.text().strip(), n.reason().strip(), author(n.author()));
    return fault.board(job);
  }

  @PostMapping("/api/jobs/{job}/fault/verdict")
  Board settle(@PathVariable long job, @RequestParam(defaultValue = "false") boolean early) {
    fault.settle(job, early);
    return fault.board(job);
  }

  record Words(@NotNull @Size(max = 400) String words) {}

  /**
   * @param outcome "" where the words say nothing by themselves
   */
  record WhatItSays(String outcome, String sentence) {}

  /** What a measured value says by itself (D-5). */
  @PostMapping("/api/readings")
  WhatItSays judge(@RequestBody @Valid Words words) {
    return Judged.of(words.words())
        .map(j -> new WhatItSays(j.outcome().name(), j.sentence()))
        .orElse(new WhatItSays("", ""));
  }

  @GetMapping("/api/symptoms")
  List<Symptom> symptoms() {
    return Symptom.all();
  }

  @PostMapping("/api/start-logs")
  StartLog.LogReading read(@RequestBody @Valid LogText log) {
    return StartLog.read(log.text());
  }

  private static String author(String typed) {
    return typed.isBlank() ? "somebody" : typed.strip();
  }
}
