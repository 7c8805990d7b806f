package lanternshed.core.fault;

/**
 * What a test costs.
 *
 * @param money in whole units of the user's currency
 * @param risk 0 none, 1 low, 2 some (handling old plastic, opening), 3 high (may lose the only
 *     copy)
 */
public record Cost(int minutes, int money, int risk) {

  public Cost {
    if (minutes < 0
        || minutes > 100_000
        || money < 0
        || money > 1_000_000
        || risk < 0
        || risk > 3) {
      throw new IllegalArgumentException(
          "A cost has minutes up to 100 000, money up to 1 000 000 and a risk of 0 to 3.");
    }
  }

  Cost plus(Cost o) {
    return new Cost(minutes + o.minutes, money + o.money, Math.max(risk, o.risk));
  }

  /** Minutes that this is worth: 1 of money counts as 2 minutes, each step of risk as 20. */
  double weight() {
    return 5 + minutes + 2.0 * money + 20.0 * risk;
  }
}
