package emit_test

import (
	"sort"
	"strings"
	"testing"

	"archetyp/core/token/emit"
)

func TestAndroid(t *testing.T) {
	files, warnings, err := emit.Android(quay(t),
		emit.Options{Name: "Quay", Contexts: map[string][]string{"width.wide": {"@media (min-width: 48rem)"}}})
	if err != nil {
		t.Fatal(err)
	}
	want := map[string]string{
		"values/tokens.xml": `<?xml version="1.0" encoding="utf-8"?>
<!-- Design tokens of Quay. Written by archetyp from the token files. -->
<resources>
    <color name="color_sea">#FF006699</color>
    <color name="color_flag">#FFFF3A12</color>
    <color name="color_link">@color/color_sea</color>
    <color name="color_old">@color/color_link</color>
    <dimen name="space_m">16dp</dimen>
    <string name="family_text">Hanken Grotesk</string>
    <style name="TypeBody" parent="">
        <item name="android:fontFamily">@string/family_text</item>
        <item name="android:textSize">16sp</item>
        <item name="android:textFontWeight">400</item>
        <item name="android:letterSpacing">0.025</item>
        <item name="android:lineHeight">24sp</item>
    </style>
    <item name="line_tight" type="dimen" format="float">1.25</item>
</resources>
`,
		"values-night/tokens.xml": `<?xml version="1.0" encoding="utf-8"?>
<!-- Design tokens of Quay. Written by archetyp from the token files. -->
<resources>
    <color name="color_sea">#FF66CCFF</color>
    <color name="color_link">@color/color_sea</color>
    <color name="color_old">@color/color_link</color>
</resources>
`,
		"values-w768dp/tokens.xml": `<?xml version="1.0" encoding="utf-8"?>
<!-- Design tokens of Quay. Written by archetyp from the token files. -->
<resources>
    <dimen name="space_m">24dp</dimen>
</resources>
`,
	}
	for _, f := range files {
		if f.Text != want[f.Path] {
			t.Errorf("%s:\n%s\nwant\n%s", f.Path, f.Text, want[f.Path])
		}
		delete(want, f.Path)
	}
	for p := range want {
		t.Errorf("%s is not written", p)
	}
	var told []string
	for _, w := range warnings {
		told = append(told, w.String())
	}
	sort.Strings(told)
	if got := strings.Join(told, "\n"); got != `color.flag: outside sRGB: its hex is written
edge.field: left out: Android resources have no border
glow.sun: left out: Android resources have no gradient
move.show: left out: Android resources have no transition
shadow.card: left out: Android resources have no shadow` {
		t.Errorf("%s", got)
	}
}

func TestSwift(t *testing.T) {
	text, _, err := emit.Swift(quay(t), emit.Options{Name: "Quay"})
	if err != nil {
		t.Fatal(err)
	}
	_, body, _ := strings.Cut(text, "\npublic enum Tokens")
	if want := `public enum Tokens {
    /// The sea
    public static let colorSea = Color.scheme(light: Color(.sRGB, red: 0, green: 0.4, blue: 0.6, opacity: 1), dark: Color(.sRGB, red: 0.4, green: 0.8, blue: 1, opacity: 1))
    public static let colorFlag = Color(.displayP3, red: 1, green: 0.2, blue: 0, opacity: 1)
    public static let colorLink = Color.scheme(light: Color(.sRGB, red: 0, green: 0.4, blue: 0.6, opacity: 1), dark: Color(.sRGB, red: 0.4, green: 0.8, blue: 1, opacity: 1))
    @available(*, deprecated, message: "use link")
    public static let colorOld = Color.scheme(light: Color(.sRGB, red: 0, green: 0.4, blue: 0.6, opacity: 1), dark: Color(.sRGB, red: 0.4, green: 0.8, blue: 1, opacity: 1))
    public static let spaceM = CGFloat(16)
    public static let familyText = ["Hanken Grotesk", "serif"]
    public static let typeBody = TypeStyle(family: "Hanken Grotesk", size: 16, weight: 400, tracking: 0.4, lineHeight: 1.5)
    public static let shadowCard = [ShadowLayer(color: Color(.sRGB, red: 0, green: 0.4, blue: 0.6, opacity: 1), x: CGFloat(0), y: CGFloat(2), blur: CGFloat(4), spread: CGFloat(0), inset: false)]
    public static let shadowCardDark = [ShadowLayer(color: Color(.sRGB, red: 0.4, green: 0.8, blue: 1, opacity: 1), x: CGFloat(0), y: CGFloat(2), blur: CGFloat(4), spread: CGFloat(0), inset: false)]
    public static let glowSun = GradientStyle(kind: "linear", degrees: 90, stops: [Gradient.Stop(color: Color(.sRGB, red: 0, green: 0.4, blue: 0.6, opacity: 1), location: 0), Gradient.Stop(color: Color(.displayP3, red: 1, green: 0.2, blue: 0, opacity: 1), location: 1)])
    public static let glowSunDark = GradientStyle(kind: "linear", degrees: 90, stops: [Gradient.Stop(color: Color(.sRGB, red: 0.4, green: 0.8, blue: 1, opacity: 1), location: 0), Gradient.Stop(color: Color(.displayP3, red: 1, green: 0.2, blue: 0, opacity: 1), location: 1)])
    public static let edgeField = BorderStyle(color: Color(.sRGB, red: 0, green: 0.4, blue: 0.6, opacity: 1), width: CGFloat(1), style: "solid")
    public static let edgeFieldDark = BorderStyle(color: Color(.sRGB, red: 0.4, green: 0.8, blue: 1, opacity: 1), width: CGFloat(1), style: "solid")
    public static let moveShow = TransitionStyle(seconds: 0.2, delay: 0, curve: Curve(x1: 0.2, y1: 0, x2: 0, y2: 1))
    public static let lineTight = Double(1.25)

    public enum WidthWide {
        public static let spaceM = CGFloat(24)
    }
}
`; "public enum Tokens"+body != want {
		t.Errorf("%s\nwant\n%s", body, want)
	}
}

func TestKotlin(t *testing.T) {
	text, _, err := emit.Kotlin(quay(t), emit.Options{Name: "Quay", Package: "quay.tokens"})
	if err != nil {
		t.Fatal(err)
	}
	if !strings.Contains(text, "\npackage quay.tokens\n") {
		t.Error("the package is not named")
	}
	_, body, _ := strings.Cut(text, "\nobject Tokens")
	if want := `object Tokens {
    /** The sea */
    val colorSea: Color
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) Color(0xFF66CCFF) else Color(0xFF006699)
    val colorFlag: Color
        get() = Color(red = 1f, green = 0.2f, blue = 0f, alpha = 1f, colorSpace = ColorSpaces.DisplayP3)
    val colorLink: Color
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) Color(0xFF66CCFF) else Color(0xFF006699)
    @Deprecated("use link")
    val colorOld: Color
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) Color(0xFF66CCFF) else Color(0xFF006699)
    val spaceM: Dp
        get() = 16.dp
    val familyText: List<String>
        get() = listOf("Hanken Grotesk", "serif")
    val typeBody: TypeStyle
        get() = TypeStyle("Hanken Grotesk", 16.sp, 400, 0.4.sp, 24.sp)
    val shadowCard: List<ShadowLayer>
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) listOf(ShadowLayer(Color(0xFF66CCFF), 0.dp, 2.dp, 4.dp, 0.dp, false)) else listOf(ShadowLayer(Color(0xFF006699), 0.dp, 2.dp, 4.dp, 0.dp, false))
    val glowSun: GradientStyle
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) GradientStyle("linear", 90.toDouble(), listOf(0f to Color(0xFF66CCFF), 1f to Color(red = 1f, green = 0.2f, blue = 0f, alpha = 1f, colorSpace = ColorSpaces.DisplayP3))) else GradientStyle("linear", 90.toDouble(), listOf(0f to Color(0xFF006699), 1f to Color(red = 1f, green = 0.2f, blue = 0f, alpha = 1f, colorSpace = ColorSpaces.DisplayP3)))
    val edgeField: BorderStyle
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) BorderStyle(Color(0xFF66CCFF), 1.dp, Dashes("solid", emptyList(), "butt")) else BorderStyle(Color(0xFF006699), 1.dp, Dashes("solid", emptyList(), "butt"))
    val moveShow: Transition
        get() = Transition(200L, 0L, CubicBezierEasing(0.2f, 0f, 0f, 1f))
    val lineTight: Double
        get() = 1.25

    object WidthWide {
        val spaceM: Dp
            get() = 24.dp
    }
}
`; "object Tokens"+body != want {
		t.Errorf("%s\nwant\n%s", body, want)
	}
}
