// Design tokens of Tern & Tide. Written by archetyp from the token files.

import SwiftUI

public struct TypeStyle {
    public let family: String
    public let size: CGFloat
    public let weight: CGFloat
    public let tracking: CGFloat
    public let lineHeight: CGFloat

    public var font: Font { Font.custom(family, size: size) }
}

public struct ShadowLayer {
    public let color: Color
    public let x: CGFloat
    public let y: CGFloat
    public let blur: CGFloat
    public let spread: CGFloat
    public let inset: Bool
}

public struct GradientStyle {
    public let kind: String
    public let degrees: Double
    public let stops: [Gradient.Stop]
}

public struct BorderStyle {
    public let color: Color
    public let width: CGFloat
    public let style: String
}

public struct Curve {
    public let x1: Double
    public let y1: Double
    public let x2: Double
    public let y2: Double
}

public struct TransitionStyle {
    public let seconds: Double
    public let delay: Double
    public let curve: Curve
}

extension Color {
    static func scheme(light: Color, dark: Color) -> Color {
        #if canImport(UIKit)
        return Color(UIColor { $0.userInterfaceStyle == .dark ? UIColor(dark) : UIColor(light) })
        #else
        return light
        #endif
    }
}

public enum Tokens {
    public static let colorInk100 = Color(.sRGB, red: 0.83529, green: 0.87451, blue: 0.90196, opacity: 1)
    public static let colorInk200 = Color(.sRGB, red: 0.71765, green: 0.77647, blue: 0.82353, opacity: 1)
    public static let colorInk300 = Color(.sRGB, red: 0.61569, green: 0.6902, blue: 0.74902, opacity: 1)
    public static let colorInk400 = Color(.sRGB, red: 0.50588, green: 0.58431, blue: 0.65098, opacity: 1)
    public static let colorInk600 = Color(.sRGB, red: 0.35294, green: 0.43529, blue: 0.51372, opacity: 1)
    public static let colorInk900 = Color(.sRGB, red: 0.06274, green: 0.14118, blue: 0.22745, opacity: 1)
    public static let colorSea100 = Color(.sRGB, red: 0.8902, green: 0.9451, blue: 0.96471, opacity: 1)
    public static let colorSea150 = Color(.sRGB, red: 0.86274, green: 0.92941, blue: 0.95686, opacity: 1)
    public static let colorSea200 = Color(.sRGB, red: 0.80392, green: 0.90196, blue: 0.93725, opacity: 1)
    public static let colorSea600 = Color(.sRGB, red: 0.04314, green: 0.43137, blue: 0.56078, opacity: 1)
    public static let colorSea700 = Color(.sRGB, red: 0.03137, green: 0.33333, blue: 0.43922, opacity: 1)
    public static let colorSea750 = Color(.sRGB, red: 0.03137, green: 0.28628, blue: 0.37647, opacity: 1)
    public static let colorSea800 = Color(.sRGB, red: 0.02353, green: 0.26667, blue: 0.35294, opacity: 1)
    public static let colorCoral500 = Color(.sRGB, red: 0.89412, green: 0.34118, blue: 0.18039, opacity: 1)
    public static let colorSun100 = Color(.sRGB, red: 0.99216, green: 0.95294, blue: 0.8902, opacity: 1)
    public static let colorSun400 = Color(.sRGB, red: 0.94902, green: 0.64706, blue: 0.2549, opacity: 1)
    public static let colorSignalBad = Color(.sRGB, red: 0.76078, green: 0.19608, blue: 0.10196, opacity: 1)
    public static let colorSignalBadQuiet = Color(.sRGB, red: 0.98431, green: 0.87843, blue: 0.8549, opacity: 1)
    public static let colorSignalBadStrong = Color(.sRGB, red: 0.63922, green: 0.15294, blue: 0.05882, opacity: 1)
    public static let colorSignalGoodQuiet = Color(.sRGB, red: 0.87451, green: 0.94902, blue: 0.90196, opacity: 1)
    public static let colorSignalGoodStrong = Color(.sRGB, red: 0.0902, green: 0.39608, blue: 0.23137, opacity: 1)
    public static let colorSignalWarnQuiet = Color(.sRGB, red: 0.99216, green: 0.93333, blue: 0.82745, opacity: 1)
    public static let colorSignalWarnStrong = Color(.sRGB, red: 0.54118, green: 0.32157, blue: 0, opacity: 1)
    public static let colorFoam = Color(.sRGB, red: 0.96078, green: 0.97255, blue: 0.98039, opacity: 1)
    public static let colorWhite = Color(.sRGB, red: 1, green: 1, blue: 1, opacity: 1)
    /// Most text
    public static let colorTextDefault = Color.scheme(light: Color(.sRGB, red: 0.06274, green: 0.14118, blue: 0.22745, opacity: 1), dark: Color(.sRGB, red: 0.91765, green: 0.94902, blue: 0.96471, opacity: 1))
    /// Text that steps back
    public static let colorTextMuted = Color.scheme(light: Color(.sRGB, red: 0.35294, green: 0.43529, blue: 0.51372, opacity: 1), dark: Color(.sRGB, red: 0.65098, green: 0.72941, blue: 0.77647, opacity: 1))
    /// Hints; too faint on white, see the checks
    public static let colorTextHint = Color.scheme(light: Color(.sRGB, red: 0.61569, green: 0.6902, blue: 0.74902, opacity: 1), dark: Color(.sRGB, red: 0.55686, green: 0.63922, blue: 0.6902, opacity: 1))
    /// Text of what cannot be used now
    public static let colorTextDisabled = Color.scheme(light: Color(.sRGB, red: 0.50588, green: 0.58431, blue: 0.65098, opacity: 1), dark: Color(.sRGB, red: 0.39608, green: 0.47843, blue: 0.52941, opacity: 1))
    /// Text on dark surfaces
    public static let colorTextInverse = Color.scheme(light: Color(.sRGB, red: 1, green: 1, blue: 1, opacity: 1), dark: Color(.sRGB, red: 0.06274, green: 0.14118, blue: 0.22745, opacity: 1))
    /// Text that can be pressed
    public static let colorTextAction = Color.scheme(light: Color(.sRGB, red: 0.04314, green: 0.43137, blue: 0.56078, opacity: 1), dark: Color(.sRGB, red: 0.34118, green: 0.72157, blue: 0.85098, opacity: 1))
    /// The ground of screens
    public static let colorSurfacePage = Color.scheme(light: Color(.sRGB, red: 0.96078, green: 0.97255, blue: 0.98039, opacity: 1), dark: Color(.sRGB, red: 0.03137, green: 0.08235, blue: 0.12157, opacity: 1))
    /// Cards and fields
    public static let colorSurfaceRaised = Color.scheme(light: Color(.sRGB, red: 1, green: 1, blue: 1, opacity: 1), dark: Color(.sRGB, red: 0.06667, green: 0.13333, blue: 0.18431, opacity: 1))
    /// What steps back from the ground
    public static let colorSurfaceQuiet = Color.scheme(light: Color(.sRGB, red: 0.8902, green: 0.9451, blue: 0.96471, opacity: 1), dark: Color(.sRGB, red: 0.06274, green: 0.19216, blue: 0.25098, opacity: 1))
    /// What cannot be used now
    public static let colorSurfaceDisabled = Color.scheme(light: Color(.sRGB, red: 0.83529, green: 0.87451, blue: 0.90196, opacity: 1), dark: Color(.sRGB, red: 0.11373, green: 0.19216, blue: 0.24706, opacity: 1))
    /// Most borders
    public static let colorBorderDefault = Color.scheme(light: Color(.sRGB, red: 0.83529, green: 0.87451, blue: 0.90196, opacity: 1), dark: Color(.sRGB, red: 0.16078, green: 0.2549, blue: 0.31765, opacity: 1))
    /// Borders of fields
    public static let colorBorderField = Color.scheme(light: Color(.sRGB, red: 0.71765, green: 0.77647, blue: 0.82353, opacity: 1), dark: Color(.sRGB, red: 0.23137, green: 0.34118, blue: 0.41176, opacity: 1))
    /// What can be pressed
    public static let colorActionDefault = Color.scheme(light: Color(.sRGB, red: 0.04314, green: 0.43137, blue: 0.56078, opacity: 1), dark: Color(.sRGB, red: 0.34118, green: 0.72157, blue: 0.85098, opacity: 1))
    /// … with the pointer on it
    public static let colorActionHover = Color.scheme(light: Color(.sRGB, red: 0.03137, green: 0.33333, blue: 0.43922, opacity: 1), dark: Color(.sRGB, red: 0.45098, green: 0.78039, blue: 0.8902, opacity: 1))
    /// … while it is pressed
    public static let colorActionActive = Color.scheme(light: Color(.sRGB, red: 0.02353, green: 0.26667, blue: 0.35294, opacity: 1), dark: Color(.sRGB, red: 0.56078, green: 0.83922, blue: 0.92941, opacity: 1))
    public static let fontFamilyText = ["Hanken Grotesk", "sans-serif"]
    public static let fontFamilyTitle = ["Fraunces", "serif"]
    public static let typeBody = TypeStyle(family: "Hanken Grotesk", size: 16, weight: 400, tracking: 0, lineHeight: 1.303)
    public static let typeBodyStrong = TypeStyle(family: "Hanken Grotesk", size: 16, weight: 600, tracking: 0, lineHeight: 1.5)
    public static let typeSmall = TypeStyle(family: "Hanken Grotesk", size: 14, weight: 400, tracking: 0, lineHeight: 1.4286)
    public static let typeSmallStrong = TypeStyle(family: "Hanken Grotesk", size: 14, weight: 600, tracking: 0, lineHeight: 1.303)
    public static let typeSubheading = TypeStyle(family: "Hanken Grotesk", size: 20, weight: 600, tracking: 0, lineHeight: 1.303)
    public static let typeHeading = TypeStyle(family: "Hanken Grotesk", size: 20, weight: 700, tracking: 0, lineHeight: 1.303)
    public static let typeTitleS = TypeStyle(family: "Fraunces", size: 25, weight: 600, tracking: -0.2, lineHeight: 1.233)
    public static let typeTitleM = TypeStyle(family: "Fraunces", size: 31, weight: 600, tracking: -0.4, lineHeight: 1.233)
    public static let typeTitleL = TypeStyle(family: "Fraunces", size: 40, weight: 600, tracking: -0.5, lineHeight: 1.233)
    public static let space8 = CGFloat(8)
    public static let space16 = CGFloat(16)
    public static let space20 = CGFloat(20)
    public static let space24 = CGFloat(24)
    public static let space32 = CGFloat(32)
    public static let space64 = CGFloat(64)
    public static let radiusS = CGFloat(8)
    public static let radiusM = CGFloat(10)
    public static let radiusL = CGFloat(12)
    public static let radiusXl = CGFloat(16)
    /// Ends as round as they can be
    public static let radiusFull = CGFloat(9999)
    public static let shadowCard = [ShadowLayer(color: Color(.sRGB, red: 0.06274, green: 0.14118, blue: 0.22745, opacity: 0.1), x: CGFloat(0), y: CGFloat(4), blur: CGFloat(16), spread: CGFloat(0), inset: false)]
    public static let shadowLifted = [ShadowLayer(color: Color(.sRGB, red: 0.06274, green: 0.14118, blue: 0.22745, opacity: 0.12), x: CGFloat(0), y: CGFloat(8), blur: CGFloat(24), spread: CGFloat(0), inset: false)]
    public static let shadowPressed = [ShadowLayer(color: Color(.sRGB, red: 0.06274, green: 0.14118, blue: 0.22745, opacity: 0.16), x: CGFloat(0), y: CGFloat(2), blur: CGFloat(4), spread: CGFloat(0), inset: true)]
    public static let shadowButton = [ShadowLayer(color: Color(.sRGB, red: 0.04314, green: 0.43137, blue: 0.56078, opacity: 0.32), x: CGFloat(0), y: CGFloat(4), blur: CGFloat(12), spread: CGFloat(0), inset: false)]
    public static let gradientBar = GradientStyle(kind: "linear", degrees: 105.4786, stops: [Gradient.Stop(color: Color(.sRGB, red: 0.04314, green: 0.2902, blue: 0.38823, opacity: 1), location: 0), Gradient.Stop(color: Color(.sRGB, red: 0.04314, green: 0.43137, blue: 0.56078, opacity: 1), location: 1)])
    public static let gradientTide = GradientStyle(kind: "linear", degrees: 180, stops: [Gradient.Stop(color: Color(.sRGB, red: 0.05882, green: 0.4902, blue: 0.62353, opacity: 1), location: 0), Gradient.Stop(color: Color(.sRGB, red: 0.03922, green: 0.35294, blue: 0.46667, opacity: 1), location: 1)])
    public static let gradientSky = GradientStyle(kind: "linear", degrees: 180, stops: [Gradient.Stop(color: Color(.sRGB, red: 0.04314, green: 0.2902, blue: 0.38823, opacity: 1), location: 0), Gradient.Stop(color: Color(.sRGB, red: 0.04314, green: 0.43137, blue: 0.56078, opacity: 1), location: 0.6), Gradient.Stop(color: Color(.sRGB, red: 0.23922, green: 0.60784, blue: 0.70196, opacity: 1), location: 1)])
    public static let gradientSun = GradientStyle(kind: "radial", degrees: 180, stops: [Gradient.Stop(color: Color(.sRGB, red: 1, green: 0.85098, blue: 0.54118, opacity: 1), location: 0), Gradient.Stop(color: Color(.sRGB, red: 0.96471, green: 0.70196, blue: 0.35294, opacity: 0.9), location: 0.55), Gradient.Stop(color: Color(.sRGB, red: 0.94902, green: 0.64706, blue: 0.2549, opacity: 0), location: 1)])

    public enum WidthWide {
        public static let typeTitleS = TypeStyle(family: "Fraunces", size: 31, weight: 600, tracking: -0.4, lineHeight: 1.233)
        public static let typeTitleM = TypeStyle(family: "Fraunces", size: 40, weight: 600, tracking: -0.5, lineHeight: 1.233)
        public static let typeTitleL = TypeStyle(family: "Fraunces", size: 50, weight: 600, tracking: -0.8, lineHeight: 1.2)
    }
}
