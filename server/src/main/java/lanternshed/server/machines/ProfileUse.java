package lanternshed.server.machines;

/** Knows whether something still needs a profile; whoever uses profiles says so. */
public interface ProfileUse {
  boolean uses(String key);
}
