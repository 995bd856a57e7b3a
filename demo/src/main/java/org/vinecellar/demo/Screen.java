package org.vinecellar.demo;

import java.awt.BasicStroke;
import java.awt.Color;
import java.awt.Font;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import javax.imageio.ImageIO;
import org.jspecify.annotations.Nullable;

/**
 * What a kiosk showed when its picture was taken.
 *
 * @param alert across the page; null for none
 */
record Screen(String title, List<String> lines, @Nullable String alert) {
  private static final int WIDTH = 640;
  private static final int HEIGHT = 400;
  private static final Color SEA = new Color(0x1f3d4d);
  private static final Color PAPER = new Color(0xf3f6f4);
  private static final Color ALARM = new Color(0xb5452c);

  /** Draws it as a PNG. */
  void draw(Path file) throws IOException {
    BufferedImage image = new BufferedImage(WIDTH, HEIGHT, BufferedImage.TYPE_INT_RGB);
    Graphics2D g = image.createGraphics();
    g.setRenderingHint(RenderingHints.KEY_ANTIALIASING, RenderingHints.VALUE_ANTIALIAS_ON);
    g.setRenderingHint(
        RenderingHints.KEY_TEXT_ANTIALIASING, RenderingHints.VALUE_TEXT_ANTIALIAS_ON);
    g.setColor(PAPER);
    g.fillRect(0, 0, WIDTH, HEIGHT);
    g.setColor(SEA);
    g.fillRect(0, 0, WIDTH, 64);
    g.setColor(Color.WHITE);
    g.setFont(new Font(Font.SERIF, Font.BOLD, 26));
    g.drawString("The Skerrow Line", 24, 41);
    g.setFont(new Font(Font.SANS_SERIF, Font.PLAIN, 15));
    g.drawString("Quay 3", WIDTH - 80, 40);
    g.setColor(SEA);
    g.setFont(new Font(Font.SANS_SERIF, Font.BOLD, 22));
    g.drawString(title, 24, 110);
    g.setFont(new Font(Font.SANS_SERIF, Font.PLAIN, 17));
    int y = 150;
    for (String line : lines) {
      g.setColor(SEA);
      g.drawString(line, 28, y);
      g.setColor(new Color(0xc9d4d0));
      g.setStroke(new BasicStroke(1f));
      g.drawLine(24, y + 11, WIDTH - 24, y + 11);
      y += 36;
    }
    if (alert != null) {
      g.setColor(ALARM);
      g.fillRoundRect(24, HEIGHT - 76, WIDTH - 48, 52, 12, 12);
      g.setColor(Color.WHITE);
      g.setFont(new Font(Font.SANS_SERIF, Font.BOLD, 17));
      g.drawString(alert, 44, HEIGHT - 44);
    }
    g.dispose();
    ImageIO.write(image, "png", file.toFile());
  }
}
