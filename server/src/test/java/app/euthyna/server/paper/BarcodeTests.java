package app.euthyna.server.paper;

import static org.assertj.core.api.Assertions.assertThat;

import com.google.zxing.BarcodeFormat;
import com.google.zxing.BinaryBitmap;
import com.google.zxing.DecodeHintType;
import com.google.zxing.LuminanceSource;
import com.google.zxing.MultiFormatReader;
import com.google.zxing.NotFoundException;
import com.google.zxing.RGBLuminanceSource;
import com.google.zxing.common.HybridBinarizer;
import java.awt.Color;
import java.awt.RenderingHints;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.util.Base64;
import java.util.Map;
import javax.imageio.ImageIO;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Barcodes are read back by a reader of its own (ZXing), as Code 128 (ISO/IEC 15417). */
class BarcodeTests {

    private static final int WIDTH = 1100;
    private static final int HEIGHT = 200;
    private static final int SELDOM = 10;

    /** A reader that takes every kind of barcode takes them for no other kind, at whatever size they are printed. */
    @ParameterizedTest
    @ValueSource(doubles = {0.7, 1, 1.37})
    void areReadAsTheNumberTheyStandFor(double scale) throws Exception {
        for (int number = 1000; number < 10_000; number += 113) {
            for (var document : new String[] {"RT-" + number, "DN-" + number}) {
                var page = page(document, scale);
                var source = new RGBLuminanceSource(WIDTH, HEIGHT, page.getRGB(0, 0, WIDTH, HEIGHT, null, 0, WIDTH));
                isRead(document, source, Map.of());
                // one that looks longer looks for squares and stacks first, and takes ten times as long
                if (number % SELDOM == 0) {
                    isRead(document, source, Map.of(DecodeHintType.TRY_HARDER, true));
                }
            }
        }
    }

    private static void isRead(String document, LuminanceSource source, Map<DecodeHintType, ?> hints)
            throws NotFoundException {
        var read = new MultiFormatReader().decode(new BinaryBitmap(new HybridBinarizer(source)), hints);
        assertThat(read.getText()).isEqualTo(document);
        assertThat(read.getBarcodeFormat()).isEqualTo(BarcodeFormat.CODE_128);
    }

    private static BufferedImage page(String number, double scale) throws Exception {
        var uri = Barcode.of(number);
        var bars =
                ImageIO.read(new ByteArrayInputStream(Base64.getDecoder().decode(uri.substring(uri.indexOf(',') + 1))));
        var page = new BufferedImage(WIDTH, HEIGHT, BufferedImage.TYPE_INT_RGB);
        var pen = page.createGraphics();
        pen.setColor(Color.WHITE);
        pen.fillRect(0, 0, WIDTH, HEIGHT);
        pen.setRenderingHint(RenderingHints.KEY_INTERPOLATION, RenderingHints.VALUE_INTERPOLATION_BILINEAR);
        pen.drawImage(bars, 60, 60, (int) (bars.getWidth() * scale), 60, null);
        pen.dispose();
        return page;
    }
}
