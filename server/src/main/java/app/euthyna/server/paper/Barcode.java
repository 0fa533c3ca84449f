package app.euthyna.server.paper;

import com.google.zxing.BarcodeFormat;
import com.google.zxing.oned.Code128Writer;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.Base64;
import javax.imageio.ImageIO;

/** Document numbers as barcodes that any scanner reads: Code 128. */
final class Barcode {

    private static final int MODULE = 3;
    private static final int HEIGHT = 60;

    private Barcode() {}

    /** A PNG picture as a data URI. */
    static String of(String number) {
        var bars = new Code128Writer().encode(number, BarcodeFormat.CODE_128, 0, 1);
        var image = new BufferedImage(bars.getWidth() * MODULE, HEIGHT, BufferedImage.TYPE_BYTE_BINARY);
        for (int x = 0; x < image.getWidth(); x++) {
            for (int y = 0; y < HEIGHT; y++) {
                image.setRGB(x, y, bars.get(x / MODULE, 0) ? 0x000000 : 0xFFFFFF);
            }
        }
        var png = new ByteArrayOutputStream();
        try {
            ImageIO.write(image, "png", png);
        } catch (IOException impossible) {
            throw new IllegalStateException("a picture in memory could not be written", impossible);
        }
        return "data:image/png;base64," + Base64.getEncoder().encodeToString(png.toByteArray());
    }
}
