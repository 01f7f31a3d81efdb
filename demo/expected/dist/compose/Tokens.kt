// Design tokens of Tern & Tide. Written by archetyp from the token files.

package ferry.tokens

import androidx.compose.animation.core.CubicBezierEasing
import androidx.compose.foundation.isSystemInDarkTheme
import androidx.compose.runtime.Composable
import androidx.compose.runtime.ReadOnlyComposable
import androidx.compose.ui.graphics.Color
import androidx.compose.ui.graphics.colorspace.ColorSpaces
import androidx.compose.ui.unit.Dp
import androidx.compose.ui.unit.TextUnit
import androidx.compose.ui.unit.dp
import androidx.compose.ui.unit.sp

data class TypeStyle(val family: String, val size: TextUnit, val weight: Int, val letterSpacing: TextUnit, val lineHeight: TextUnit)

data class ShadowLayer(val color: Color, val x: Dp, val y: Dp, val blur: Dp, val spread: Dp, val inset: Boolean)

data class GradientStyle(val kind: String, val degrees: Double, val stops: List<Pair<Float, Color>>)

data class Dashes(val style: String, val lengths: List<Dp>, val cap: String)

data class BorderStyle(val color: Color, val width: Dp, val style: Dashes)

data class Transition(val millis: Long, val delay: Long, val easing: CubicBezierEasing)

object Tokens {
    val colorInk100: Color
        get() = Color(0xFFD5DFE6)
    val colorInk200: Color
        get() = Color(0xFFB7C6D2)
    val colorInk300: Color
        get() = Color(0xFF9DB0BF)
    val colorInk400: Color
        get() = Color(0xFF8195A6)
    val colorInk600: Color
        get() = Color(0xFF5A6F83)
    val colorInk900: Color
        get() = Color(0xFF10243A)
    val colorSea100: Color
        get() = Color(0xFFE3F1F6)
    val colorSea150: Color
        get() = Color(0xFFDCEDF4)
    val colorSea200: Color
        get() = Color(0xFFCDE6EF)
    val colorSea600: Color
        get() = Color(0xFF0B6E8F)
    val colorSea700: Color
        get() = Color(0xFF085570)
    val colorSea750: Color
        get() = Color(0xFF084960)
    val colorSea800: Color
        get() = Color(0xFF06445A)
    val colorCoral500: Color
        get() = Color(0xFFE4572E)
    val colorSun100: Color
        get() = Color(0xFFFDF3E3)
    val colorSun400: Color
        get() = Color(0xFFF2A541)
    val colorSignalBad: Color
        get() = Color(0xFFC2321A)
    val colorSignalBadQuiet: Color
        get() = Color(0xFFFBE0DA)
    val colorSignalBadStrong: Color
        get() = Color(0xFFA3270F)
    val colorSignalGoodQuiet: Color
        get() = Color(0xFFDFF2E6)
    val colorSignalGoodStrong: Color
        get() = Color(0xFF17653B)
    val colorSignalWarnQuiet: Color
        get() = Color(0xFFFDEED3)
    val colorSignalWarnStrong: Color
        get() = Color(0xFF8A5200)
    val colorFoam: Color
        get() = Color(0xFFF5F8FA)
    val colorWhite: Color
        get() = Color(0xFFFFFFFF)
    /** Most text */
    val colorTextDefault: Color
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) Color(0xFFEAF2F6) else Color(0xFF10243A)
    /** Text that steps back */
    val colorTextMuted: Color
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) Color(0xFFA6BAC6) else Color(0xFF5A6F83)
    /** Hints; too faint on white, see the checks */
    val colorTextHint: Color
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) Color(0xFF8EA3B0) else Color(0xFF9DB0BF)
    /** Text of what cannot be used now */
    val colorTextDisabled: Color
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) Color(0xFF657A87) else Color(0xFF8195A6)
    /** Text on dark surfaces */
    val colorTextInverse: Color
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) Color(0xFF10243A) else Color(0xFFFFFFFF)
    /** Text that can be pressed */
    val colorTextAction: Color
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) Color(0xFF57B8D9) else Color(0xFF0B6E8F)
    /** The ground of screens */
    val colorSurfacePage: Color
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) Color(0xFF08151F) else Color(0xFFF5F8FA)
    /** Cards and fields */
    val colorSurfaceRaised: Color
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) Color(0xFF11222F) else Color(0xFFFFFFFF)
    /** What steps back from the ground */
    val colorSurfaceQuiet: Color
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) Color(0xFF103140) else Color(0xFFE3F1F6)
    /** What cannot be used now */
    val colorSurfaceDisabled: Color
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) Color(0xFF1D313F) else Color(0xFFD5DFE6)
    /** Most borders */
    val colorBorderDefault: Color
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) Color(0xFF294151) else Color(0xFFD5DFE6)
    /** Borders of fields */
    val colorBorderField: Color
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) Color(0xFF3B5769) else Color(0xFFB7C6D2)
    /** What can be pressed */
    val colorActionDefault: Color
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) Color(0xFF57B8D9) else Color(0xFF0B6E8F)
    /** … with the pointer on it */
    val colorActionHover: Color
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) Color(0xFF73C7E3) else Color(0xFF085570)
    /** … while it is pressed */
    val colorActionActive: Color
        @Composable @ReadOnlyComposable
        get() = if (isSystemInDarkTheme()) Color(0xFF8FD6ED) else Color(0xFF06445A)
    val fontFamilyText: List<String>
        get() = listOf("Hanken Grotesk", "sans-serif")
    val fontFamilyTitle: List<String>
        get() = listOf("Fraunces", "serif")
    val typeBody: TypeStyle
        get() = TypeStyle("Hanken Grotesk", 16.sp, 400, 0.sp, 20.848.sp)
    val typeBodyStrong: TypeStyle
        get() = TypeStyle("Hanken Grotesk", 16.sp, 600, 0.sp, 24.sp)
    val typeSmall: TypeStyle
        get() = TypeStyle("Hanken Grotesk", 14.sp, 400, 0.sp, 20.0004.sp)
    val typeSmallStrong: TypeStyle
        get() = TypeStyle("Hanken Grotesk", 14.sp, 600, 0.sp, 18.242.sp)
    val typeSubheading: TypeStyle
        get() = TypeStyle("Hanken Grotesk", 20.sp, 600, 0.sp, 26.06.sp)
    val typeHeading: TypeStyle
        get() = TypeStyle("Hanken Grotesk", 20.sp, 700, 0.sp, 26.06.sp)
    val typeTitleS: TypeStyle
        get() = TypeStyle("Fraunces", 25.sp, 600, (-0.2).sp, 30.825.sp)
    val typeTitleM: TypeStyle
        get() = TypeStyle("Fraunces", 31.sp, 600, (-0.4).sp, 38.223.sp)
    val typeTitleL: TypeStyle
        get() = TypeStyle("Fraunces", 40.sp, 600, (-0.5).sp, 49.32.sp)
    val space8: Dp
        get() = 8.dp
    val space16: Dp
        get() = 16.dp
    val space20: Dp
        get() = 20.dp
    val space24: Dp
        get() = 24.dp
    val space32: Dp
        get() = 32.dp
    val space64: Dp
        get() = 64.dp
    val radiusS: Dp
        get() = 8.dp
    val radiusM: Dp
        get() = 10.dp
    val radiusL: Dp
        get() = 12.dp
    val radiusXl: Dp
        get() = 16.dp
    /** Ends as round as they can be */
    val radiusFull: Dp
        get() = 9999.dp
    val shadowCard: List<ShadowLayer>
        get() = listOf(ShadowLayer(Color(0x1A10243A), 0.dp, 4.dp, 16.dp, 0.dp, false))
    val shadowLifted: List<ShadowLayer>
        get() = listOf(ShadowLayer(Color(0x1F10243A), 0.dp, 8.dp, 24.dp, 0.dp, false))
    val shadowPressed: List<ShadowLayer>
        get() = listOf(ShadowLayer(Color(0x2910243A), 0.dp, 2.dp, 4.dp, 0.dp, true))
    val shadowButton: List<ShadowLayer>
        get() = listOf(ShadowLayer(Color(0x520B6E8F), 0.dp, 4.dp, 12.dp, 0.dp, false))
    val gradientBar: GradientStyle
        get() = GradientStyle("linear", 105.4786.toDouble(), listOf(0f to Color(0xFF0B4A63), 1f to Color(0xFF0B6E8F)))
    val gradientTide: GradientStyle
        get() = GradientStyle("linear", 180.toDouble(), listOf(0f to Color(0xFF0F7D9F), 1f to Color(0xFF0A5A77)))
    val gradientSky: GradientStyle
        get() = GradientStyle("linear", 180.toDouble(), listOf(0f to Color(0xFF0B4A63), 0.6f to Color(0xFF0B6E8F), 1f to Color(0xFF3D9BB3)))
    val gradientSun: GradientStyle
        get() = GradientStyle("radial", 180.toDouble(), listOf(0f to Color(0xFFFFD98A), 0.55f to Color(0xE6F6B35A), 1f to Color(0x00F2A541)))

    object WidthWide {
        val typeTitleS: TypeStyle
            get() = TypeStyle("Fraunces", 31.sp, 600, (-0.4).sp, 38.223.sp)
        val typeTitleM: TypeStyle
            get() = TypeStyle("Fraunces", 40.sp, 600, (-0.5).sp, 49.32.sp)
        val typeTitleL: TypeStyle
            get() = TypeStyle("Fraunces", 50.sp, 600, (-0.8).sp, 60.sp)
    }
}
