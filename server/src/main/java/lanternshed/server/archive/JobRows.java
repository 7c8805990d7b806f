package lanternshed.server.archive;

import jakarta.persistence.EntityManager;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import lanternshed.core.measure.ShedException;
import lanternshed.server.shell.Json;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Rows of a job, out of the database as JSON and in again under new numbers. Names of tables and
 * columns are the database's own; values are bound.
 */
@Component
class JobRows {
  /**
   * A table of which a job has rows.
   *
   * @param by column by which they belong to a row of {@code of}
   * @param numbered whether its rows have numbers of their own
   * @param points further columns with numbers of another table's rows
   */
  record Table(String name, String by, String of, boolean numbered, Map<String, String> points) {
    static Table of(String name, String by, String of) {
      return new Table(name, by, of, true, Map.of());
    }

    private Map<String, String> allPoints() {
      Map<String, String> out = new HashMap<>(points);
      if (!by.equals("id")) out.put(by, of);
      return out;
    }
  }

  static final Table IMAGE = Table.of("image", "id", "image");
  static final Table MEDIUM =
      new Table("medium", "id", "medium", true, Map.of("holds_image", "image"));
  static final Table JOB =
      new Table(
          "job",
          "id",
          "job",
          true,
          Map.of(
              "medium_id", "medium",
              "card_id", "medium",
              "rescued_id", "image",
              "built_id", "image",
              "golden_id", "image"));
  static final Table PICTURE = Table.of("picture", "job_id", "job");
  static final Table PART = Table.of("fault_part", "job_id", "job");
  static final Table TRIAL = Table.of("fault_trial", "job_id", "job");
  static final Table BROUGHT = Table.of("brought_file", "job_id", "job");
  static final Table ROM = Table.of("rom", "job_id", "job");

  /** Each behind those that it points to. */
  static final List<Table> ALL =
      List.of(
          IMAGE,
          MEDIUM,
          JOB,
          new Table("station", "job_id", "job", false, Map.of()),
          new Table("log_line", "job_id", "job", true, Map.of("corrects", "log_line")),
          PART,
          TRIAL,
          Table.of("fault_idea", "job_id", "job"),
          PICTURE,
          Table.of("fastener", "picture_id", "picture"),
          Table.of("timing", "job_id", "job"),
          BROUGHT,
          ROM,
          Table.of("rom_reading", "rom_id", "rom"));

  private final EntityManager em;

  /** By table: the type of each column. */
  private final Map<String, Map<String, String>> columns = new ConcurrentHashMap<>();

  JobRows(EntityManager em) {
    this.em = em;
  }

  /** Rows that belong to some of another table, in the order in which they were written. */
  List<ObjectNode> rows(Table t, Collection<Long> owners) {
    if (owners.isEmpty()) return List.of();
    String sql =
        "select cast(to_jsonb(t) as text) from "
            + t.name()
            + " t where t."
            + t.by()
            + " in (:owners) order by t."
            + (t.numbered() ? "id" : "number");
    List<?> found =
        em.createNativeQuery(sql, String.class).setParameter("owners", owners).getResultList();
    List<ObjectNode> out = new ArrayList<>();
    for (Object text : found) out.add(Json.read((String) text, ObjectNode.class));
    return out;
  }

  /** What the rows that came in are called here, by table and old number. */
  static final class Numbers {
    private final Map<String, Map<Long, Long>> now = new HashMap<>();

    void put(String table, long old, long number) {
      now.computeIfAbsent(table, t -> new LinkedHashMap<>()).put(old, number);
    }

    int count(String table) {
      return now.getOrDefault(table, Map.of()).size();
    }

    Optional<Long> of(String table, long old) {
      return Optional.ofNullable(now.getOrDefault(table, Map.of()).get(old));
    }
  }

  /**
   * Holds a row against what this shed knows and keeps.
   *
   * @throws ShedException where it has something that this shed does not know, or never wrote
   */
  void check(Table t, ObjectNode row) {
    Map<String, String> known = columns(t);
    for (String name : row.propertyNames()) {
      if (!known.containsKey(name)) {
        throw new ShedException(
            "This archive keeps “"
                + name.replaceAll("[^\\w]", "?")
                + "” of a "
                + t.name().replace('_', ' ')
                + ", which is not known here: a newer shed wrote it. Bring this one up to date"
                + " first.");
      }
      RowValues.check(t.name(), name, known.get(name), row.get(name));
    }
  }

  /**
   * Writes a row under a new number, pointing to where the rows that it points to are now. It was
   * {@linkplain #check checked}.
   */
  void insert(Table t, ObjectNode row, Numbers numbers) {
    t.allPoints()
        .forEach(
            (column, table) -> {
              JsonNode old = row.get(column);
              if (old == null || old.isNull()) return;
              Optional<Long> now = numbers.of(table, old.asLong(0));
              now.ifPresentOrElse(n -> row.put(column, n), () -> row.putNull(column));
            });
    Set<String> names = new HashSet<>(row.propertyNames());
    if (t.numbered()) names.remove("id");
    String list = String.join(", ", names);
    String sql =
        "insert into %1$s (%2$s) select %2$s from jsonb_populate_record(cast(null as %1$s), cast(:row as jsonb))"
            .formatted(t.name(), list);
    if (!t.numbered()) {
      em.createNativeQuery(sql).setParameter("row", row.toString()).executeUpdate();
      return;
    }
    Object id =
        em.createNativeQuery(sql + " returning id", Long.class)
            .setParameter("row", row.toString())
            .getSingleResult();
    numbers.put(t.name(), row.path("id").asLong(0), (Long) id);
  }

  private Map<String, String> columns(Table t) {
    return columns.computeIfAbsent(
        t.name(),
        name -> {
          List<?> found =
              em.createNativeQuery(
                      "select cast(column_name as text), cast(data_type as text)"
                          + " from information_schema.columns"
                          + " where table_schema = current_schema() and table_name = :name",
                      Object[].class)
                  .setParameter("name", name)
                  .getResultList();
          Map<String, String> out = new HashMap<>();
          for (Object row : found) {
            Object[] column = (Object[]) row;
            out.put((String) column[0], (String) column[1]);
          }
          return out;
        });
  }

  /** Forgets what was read, so that what is asked next comes from the rows as they are. */
  void settle() {
    em.flush();
    em.clear();
  }
}
