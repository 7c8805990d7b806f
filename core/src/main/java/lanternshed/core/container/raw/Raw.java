package lanternshed.core.container.raw;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import lanternshed.core.container.Packer;

/** The sectors as they are; what begins as nothing else. */
public final class Raw implements Packer {
  @Override
  public String key() {
    return "raw";
  }

  @Override
  public boolean begins(byte[] head) {
    return true;
  }

  @Override
  public boolean packed() {
    return false;
  }

  @Override
  public Content open(InputStream file) {
    return () -> file;
  }

  @Override
  public String extension() {
    return "img";
  }

  @Override
  public void pack(Parcel parcel, OutputStream to) throws IOException {
    parcel.copy(to);
  }
}
