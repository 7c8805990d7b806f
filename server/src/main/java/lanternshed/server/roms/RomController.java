package lanternshed.server.roms;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.util.List;
import lanternshed.core.boot.pc.RomRun;
import lanternshed.core.rom.Chip;
import lanternshed.core.rom.Erased;
import lanternshed.core.rom.HexText;
import lanternshed.core.rom.ReadBack;
import lanternshed.core.rom.RomCarrier;
import lanternshed.core.rom.RomChange;
import lanternshed.core.rom.StandInProgrammer;
import lanternshed.core.rom.Windows;
import lanternshed.server.shell.RawBody;
import lanternshed.server.shell.Transfers;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The ROM bench. */
@RestController
@RequestMapping("/api/roms")
class RomController {
  private final RomService roms;
  private final RomFiles files;

  RomController(RomService roms, RomFiles files) {
    this.files = files;
    this.roms = roms;
  }

  record RomText(
      long version,
      @NotBlank @Size(max = 120) String name,
      @NotNull @Size(max = 2000) String note,
      @Min(0) @Max(8) int drives) {}

  record OccupiedText(
      @NotBlank @Size(max = 60) String name,
      @Min(0) @Max(0xFFFFF) int start,
      @Min(1) @Max(0x100000) int length) {}

  record PlaceText(
      long version,
      @NotNull @Size(max = 20) List<@Valid OccupiedText> occupied,
      @NotNull @Size(max = 40) String carrier,
      @Min(0) @Max(0xFFFFF) int window) {
    RomService.RomPlace place() {
      return new RomService.RomPlace(
          occupied.stream()
              .map(o -> new Windows.Occupied(o.name().strip(), o.start(), o.length()))
              .toList(),
          carrier,
          window);
    }
  }

  record ForJob(long version, @Min(0) long job) {}

  record ChipWish(int kilobits, @NotNull Chip.Pad pad) {}

  record SplitWish(int ways) {}

  record StandInWish(@NotNull StandInProgrammer.Trouble trouble) {}

  record JoinWish(@NotNull @Size(min = 2, max = 4) List<Long> ids) {}

  @GetMapping
  List<RomService.RomRow> all() {
    return roms.rows();
  }

  @GetMapping("/carriers")
  List<RomCarrier> carriers() {
    return RomCarrier.all();
  }

  @GetMapping("/{id}")
  RomService.RomView one(@PathVariable long id) {
    return roms.view(id);
  }

  @PostMapping(consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  @ResponseStatus(HttpStatus.CREATED)
  @RawBody
  RomService.RomView add(@RequestParam @Size(max = 400) String name, HttpServletRequest request)
      throws IOException {
    return files.taken(request.getInputStream(), b -> roms.view(roms.add(name, b)));
  }

  @PutMapping("/{id}")
  RomService.RomView write(@PathVariable long id, @RequestBody @Valid RomText t) {
    roms.write(id, t.version(), t.name(), t.note(), t.drives());
    return roms.view(id);
  }

  @PutMapping("/{id}/place")
  RomService.RomView place(@PathVariable long id, @RequestBody @Valid PlaceText p) {
    roms.place(id, p.version(), p.place());
    return roms.view(id);
  }

  @PutMapping("/{id}/job")
  RomService.RomView forJob(@PathVariable long id, @RequestBody @Valid ForJob f) {
    roms.forJob(id, f.version(), f.job());
    return roms.view(id);
  }

  /** What was changed from this image to another (O-9). */
  @GetMapping("/{id}/against/{other}")
  RomChange against(@PathVariable long id, @PathVariable long other) {
    return roms.against(id, other);
  }

  @DeleteMapping("/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable long id, @RequestParam boolean undo) {
    roms.remove(id, !undo);
  }

  @GetMapping("/{id}/file")
  ResponseEntity<byte[]> file(@PathVariable long id, @RequestParam HexText.Form form) {
    String ending =
        switch (form) {
          case RAW -> ".bin";
          case INTEL -> ".hex";
          case MOTOROLA -> ".srec";
        };
    String name = roms.name(id).replaceAll("\\.(bin|rom|hex|srec)$", "") + ending;
    return Transfers.attachment(name).body(roms.file(id, form));
  }

  @PostMapping("/{id}/corrected")
  @ResponseStatus(HttpStatus.CREATED)
  RomService.RomView corrected(@PathVariable long id) {
    return roms.view(roms.corrected(id));
  }

  @PostMapping("/{id}/fitted")
  @ResponseStatus(HttpStatus.CREATED)
  RomService.RomView fitted(@PathVariable long id, @RequestBody @Valid ChipWish w) {
    return roms.view(roms.fitted(id, w.kilobits(), w.pad()));
  }

  @PostMapping("/{id}/split")
  @ResponseStatus(HttpStatus.CREATED)
  List<Long> split(@PathVariable long id, @RequestBody @Valid SplitWish w) {
    return roms.split(id, w.ways());
  }

  @PostMapping("/joined")
  @ResponseStatus(HttpStatus.CREATED)
  RomService.RomJoined joined(@RequestBody @Valid JoinWish w) {
    return roms.joined(w.ids());
  }

  /** The image run as firmware enters it, at its window. */
  @GetMapping("/{id}/run")
  RomRun.RomRan run(@PathVariable long id) {
    return roms.run(id);
  }

  @PostMapping(path = "/{id}/read-back", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  @RawBody
  ReadBack readBack(@PathVariable long id, HttpServletRequest request) throws IOException {
    return files.taken(request.getInputStream(), b -> roms.readBack(id, b));
  }

  /** The image put into a chip of the stand-in, and read back from it. */
  @PostMapping("/{id}/stand-in")
  ReadBack standIn(@PathVariable long id, @RequestBody @Valid StandInWish w) {
    return roms.standIn(id, w.trouble());
  }

  @PostMapping(path = "/{id}/over", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
  @RawBody
  Erased over(@PathVariable long id, HttpServletRequest request) throws IOException {
    return files.taken(request.getInputStream(), b -> roms.over(id, b));
  }
}
