package app.euthyna.demo;

import app.euthyna.core.flow.OrderFigures;
import app.euthyna.core.order.LineKind;
import app.euthyna.core.shared.Vat;
import app.euthyna.server.masterdata.Item;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** What Skerrywick Chandlery sells and to whom; all of it invented. */
final class DemoCatalogue {

    private static final String[] PLACES = {
        "Petrel Cove",
        "Gannet Sound",
        "Lowtide",
        "Ardlinnet",
        "Mewstone",
        "Sandeel",
        "Harl Point",
        "Oystermouth Bight",
        "Brack Island",
        "Kittiwake",
        "Tern Bay",
        "Skail Ness",
        "Dunlin Reach",
        "Corran Quay",
        "Whelk Street",
        "Eiderholm",
        "Rannoch Haven",
        "Saltpan",
        "Merrow Strand",
        "Lantern Hill",
        "Fulmar Head",
        "Bracken Mole",
        "Storrick",
        "Pellan Bar",
        "Garvie Slip",
        "Hollin Creek",
        "Ness of Orr",
        "Cuddy Rock",
        "Limpet Row",
        "Sgarbh Voe",
        "Torran",
        "Birsa Wick",
        "Anstey Locks",
        "Quill Marsh",
        "Marram",
        "Farther Skerry",
        "Holm Gate",
        "Rudder Lane",
        "Capstan Green",
        "Dory Wharf",
        "Selkie Bank",
        "Heron Weir",
        "Longshore",
        "Thole Pin"
    };
    private static final String[] TRADES = {
        "Boatyard",
        "Harbour Trust",
        "Sailing School",
        "Ferries",
        "Rigging",
        "Chartering",
        "Marina",
        "Yard",
        "Pilots",
        "Dinghies",
        "Lifeboat Fund",
        "Fishermen's Co-operative"
    };
    private static final String[] TOWNS = {
        "Skerrywick", "Ardlinnet", "Harl", "Oban Mor", "Gannet", "Storrick", "Eiderholm", "Torran"
    };

    private DemoCatalogue() {}

    /** A customer's place in the world: code, name, town. */
    record Name(String code, String name, String town) {}

    static List<Name> customers() {
        var names = new ArrayList<Name>();
        for (int at = 0; at < PLACES.length; at++) {
            names.add(new Name(
                    "C%03d".formatted(101 + at),
                    PLACES[at] + " " + TRADES[at % TRADES.length],
                    TOWNS[at % TOWNS.length]));
        }
        return names;
    }

    /** An item with what it costs and how many lie on the shelf to begin with. */
    record Stocked(Item item, BigDecimal unitCost, int onHand) {}

    private static final List<String> FIRST = List.of(
            "Ailsa",
            "Brendan",
            "Catriona",
            "Donal",
            "Eilidh",
            "Fergal",
            "Grainne",
            "Hamish",
            "Iseult",
            "Jory",
            "Kerra");
    private static final List<String> LAST =
            List.of("Garrow", "Tolmie", "Penhallow", "Scarle", "Dunlavin", "Orrick", "Merriden");

    /** Whom one calls at a customer; at some nobody has said. */
    static String contact(int at) {
        return at % 10 == 7 ? "" : FIRST.get(at % FIRST.size()) + " " + LAST.get(at % LAST.size());
    }

    /** In a range that is kept free for made-up numbers. */
    static String phone(int at) {
        return at % 10 == 7 ? "" : "+353 20 91%d %04d".formatted(at % 10, 1200 + at * 37);
    }

    private static final List<String> ROPES = List.of(
            "Braided polyester", "Three-strand nylon", "Floating line", "Hand-laid hemp", "HMPE core", "Shock cord");
    private static final List<String> FITTINGS = List.of(
            "Bow shackle, galvanised",
            "D shackle, stainless",
            "Turnbuckle",
            "Cleat, bronze",
            "Snap hook",
            "Swivel",
            "Fairlead",
            "Eye bolt");
    private static final List<String> GROUND =
            List.of("Plough anchor", "Fluke anchor", "Claw anchor", "Mushroom anchor");
    private static final List<String> SAFETY = List.of(
            "Lifejacket 150 N",
            "Lifejacket 275 N",
            "Throw line",
            "Liferaft strap",
            "Deck lamp",
            "Navigation lamp",
            "Fog horn",
            "First aid box",
            "Safety harness",
            "Jackstay",
            "Boat hook",
            "Bailing bucket");
    private static final List<String> PAINT = List.of(
            "Topcoat white",
            "Topcoat navy",
            "Primer grey",
            "Bilge paint",
            "Varnish",
            "Deck paint",
            "Thinner",
            "Filler");

    static List<Stocked> items() {
        var items = new ArrayList<Stocked>();
        for (int kind = 0; kind < ROPES.size(); kind++) {
            for (int size : new int[] {6, 8, 10, 12, 16, 20, 24}) {
                add(
                        items,
                        "RP-%d%02d".formatted(kind + 1, size),
                        "%s %d mm".formatted(ROPES.get(kind), size),
                        "rope",
                        "m",
                        (kind + 2) * size * 9,
                        4000,
                        "");
            }
        }
        for (int kind = 0; kind < FITTINGS.size(); kind++) {
            for (int size : new int[] {8, 10, 12, 16}) {
                add(
                        items,
                        "FT-%d%02d".formatted(kind + 1, size),
                        "%s %d mm".formatted(FITTINGS.get(kind), size),
                        "fitting",
                        "pc",
                        (kind + 3) * size * 21,
                        900,
                        "");
            }
        }
        others(items);
        return items;
    }

    private static void others(List<Stocked> items) {
        for (int kind = 0; kind < GROUND.size(); kind++) {
            for (int weight : new int[] {10, 20, 35}) {
                add(
                        items,
                        "AN-%d0%d".formatted(weight, kind + 1),
                        "%s %d kg".formatted(GROUND.get(kind), weight),
                        "ground",
                        "pc",
                        (kind + 6) * weight * 140,
                        70,
                        "");
            }
        }
        for (int size : new int[] {6, 8, 10, 13}) {
            add(
                    items,
                    "CH-%02d".formatted(size),
                    "Chain %d mm, galvanised".formatted(size),
                    "ground",
                    "m",
                    size * 95,
                    1500,
                    "");
        }
        for (int at = 0; at < SAFETY.size(); at++) {
            add(items, "SF-%02d".formatted(at + 1), SAFETY.get(at), "safety", "pc", 1900 + at * 730, 260, "");
        }
        add(items, "FL-01", "Parachute flare, red", "safety", "pc", 3875, 240, "pyro");
        add(items, "FL-02", "Hand flare, red", "safety", "pc", 1490, 300, "pyro");
        add(items, "FL-03", "Smoke signal, orange", "safety", "pc", 4210, 160, "pyro");
        for (int at = 0; at < PAINT.size(); at++) {
            add(
                    items,
                    "PT-%02d".formatted(at + 1),
                    PAINT.get(at) + ", 2.5 l",
                    "paint",
                    "tin",
                    2400 + at * 310,
                    220,
                    "");
        }
        add(items, "AF-01", "Antifouling red, 2.5 l", "paint", "tin", 8900, 140, "biocide");
        add(items, "AF-02", "Antifouling blue, 2.5 l", "paint", "tin", 8900, 120, "biocide");
        add(items, "CC-01", "Paint colour card", "paint", "pc", 350, 500, "");
        add(items, "MS-01", "Mooring set, made to order", "ground", "set", 300041, 4, "");
        service(items, "SV-01", "Rigging, hours", 5800);
        service(items, "SV-02", "Splicing, hours", 4600);
        service(items, "SV-03", "Mast survey", 24500);
        service(items, "FR-01", "Freight", 1850);
    }

    private static void add(
            List<Stocked> items,
            String code,
            String name,
            String itemClass,
            String unit,
            int cents,
            int onHand,
            String regulated) {
        var price = BigDecimal.valueOf(cents, 2);
        var cost = price.multiply(BigDecimal.valueOf(62, 2)).setScale(4);
        items.add(new Stocked(
                new Item(
                        code,
                        name,
                        LineKind.STOCK,
                        itemClass,
                        unit,
                        price,
                        cost.setScale(2, RoundingMode.UP),
                        Vat.of(Vat.Category.S, "21"),
                        BigDecimal.valueOf(onHand / 10),
                        code.equals("MS-01") ? 14 : 0,
                        regulated,
                        measures(code)),
                cost,
                onHand));
    }

    /** Roughly what such things weigh and fill; of two nobody has said so yet. */
    private static OrderFigures.Measures measures(String code) {
        var digits = code.replaceAll("\\D", "");
        var size = Long.parseLong(digits.substring(Math.max(0, digits.length() - 2)));
        return switch (code.substring(0, 2)) {
            case "RP" -> measures(size * size * 7 / 10, size * size * 8 / 10);
            case "FT" -> measures(size * size * size / 7, size * size * size / 20);
            case "AN" -> {
                var kilograms = Long.parseLong(digits.substring(0, 2));
                yield measures(kilograms * 1000, kilograms * 1500);
            }
            case "CH" -> measures(size * size * 45 / 2, size * size * 5);
            case "SF", "FL" -> measures(650 + size * 120L, 2400 + size * 350L);
            case "PT", "AF" -> measures(3450, 3800);
            default -> OrderFigures.Measures.UNKNOWN;
        };
    }

    private static OrderFigures.Measures measures(long grams, long cubicCentimetres) {
        return new OrderFigures.Measures(
                Optional.of(BigDecimal.valueOf(grams, OrderFigures.WEIGHT_DECIMALS)),
                Optional.of(BigDecimal.valueOf(cubicCentimetres, OrderFigures.VOLUME_DECIMALS)));
    }

    private static void service(List<Stocked> items, String code, String name, int cents) {
        items.add(new Stocked(
                new Item(
                        code,
                        name,
                        LineKind.SERVICE,
                        "service",
                        "h",
                        BigDecimal.valueOf(cents, 2),
                        BigDecimal.ZERO,
                        Vat.of(Vat.Category.S, "21"),
                        BigDecimal.ZERO,
                        0,
                        "",
                        OrderFigures.Measures.UNKNOWN),
                BigDecimal.ZERO,
                0));
    }
}
