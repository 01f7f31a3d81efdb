package computed

// longhands are the properties: name; i where it is inherited; initial value; what it takes. Values are printed as
// browsers serialize computed ones. https://www.w3.org/TR/CSS/#properties
const longhands = `
color; i; canvastext; <color>
color-scheme; i; normal; normal | [ light | dark | <custom-ident> ]+ && only?
forced-color-adjust; i; auto; auto | none | preserve-parent-color
print-color-adjust; i; economy; economy | exact
opacity; ; 1; <number> | <percentage>
accent-color; i; auto; auto | <color>
caret-color; i; auto; auto | <color>
direction; i; ltr; ltr | rtl
writing-mode; i; horizontal-tb; horizontal-tb | vertical-rl | vertical-lr | sideways-rl | sideways-lr | lr | lr-tb | rl | tb | tb-rl
unicode-bidi; ; normal; normal | embed | isolate | bidi-override | isolate-override | plaintext | -webkit-isolate | -webkit-plaintext
text-orientation; i; mixed; mixed | upright | sideways | sideways-right

font-family; i; "Times New Roman"; <family>#
font-size; i; medium; <length-percentage [0,∞]> | xx-small | x-small | small | medium | large | x-large | xx-large | xxx-large | larger | smaller | math
font-weight; i; normal; normal | bold | bolder | lighter | <number [1,1000]>
font-style; i; normal; normal | italic | oblique <angle [-90,90]>?
font-stretch; i; normal; <percentage [0,∞]> | normal | ultra-condensed | extra-condensed | condensed | semi-condensed | semi-expanded | expanded | extra-expanded | ultra-expanded
font-size-adjust; i; none; none | [ ex-height | cap-height | ch-width | ic-width | ic-height ]? [ from-font | <number [0,∞]> ]
font-kerning; i; auto; auto | normal | none
font-optical-sizing; i; auto; auto | none
font-feature-settings; i; normal; normal | [ <string> [ <integer [0,∞]> | on | off ]? ]#
font-variation-settings; i; normal; normal | [ <string> <number> ]#
font-language-override; i; normal; normal | <string>
font-palette; i; normal; normal | light | dark | <dashed-ident> | palette-mix( <any>* )
font-synthesis-weight; i; auto; auto | none
font-synthesis-style; i; auto; auto | none | oblique-only
font-synthesis-small-caps; i; auto; auto | none
font-variant-ligatures; i; normal; normal | none | [ [ common-ligatures | no-common-ligatures ] || [ discretionary-ligatures | no-discretionary-ligatures ] || [ historical-ligatures | no-historical-ligatures ] || [ contextual | no-contextual ] ]
font-variant-caps; i; normal; normal | small-caps | all-small-caps | petite-caps | all-petite-caps | unicase | titling-caps
font-variant-numeric; i; normal; normal | [ <numeric-figure> || [ proportional-nums | tabular-nums ] || [ diagonal-fractions | stacked-fractions ] || ordinal || slashed-zero ]
font-variant-east-asian; i; normal; normal | [ [ jis78 | jis83 | jis90 | jis04 | simplified | traditional ] || [ full-width | proportional-width ] || ruby ]
font-variant-alternates; i; normal; normal | historical-forms | <any-function>+
font-variant-position; i; normal; normal | sub | super
font-variant-emoji; i; normal; normal | text | emoji | unicode
line-height; i; normal; normal | <number [0,∞]> | <length-percentage [0,∞]>
letter-spacing; i; normal; normal | <length-percentage>
word-spacing; i; 0px; normal | <length-percentage>
text-align; i; start; start | end | left | right | center | justify | match-parent | -webkit-left | -webkit-right | -webkit-center | -webkit-match-parent | -internal-center
text-align-last; i; auto; auto | start | end | left | right | center | justify
text-indent; i; 0px; <length-percentage> && hanging? && each-line?
text-transform; i; none; none | math-auto | [ [ capitalize | uppercase | lowercase ] || full-width || full-size-kana ]
text-rendering; i; auto; auto | optimizespeed | optimizelegibility | geometricprecision
text-shadow; i; none; none | <text-shadow>#
text-decoration-line; ; none; none | [ underline || overline || line-through || blink ] | spelling-error | grammar-error
text-decoration-style; ; solid; solid | double | dotted | dashed | wavy
text-decoration-color; ; currentcolor; <color>
text-decoration-thickness; ; auto; auto | from-font | <length-percentage>
text-decoration-skip-ink; i; auto; auto | none | all
text-underline-offset; i; auto; auto | <length-percentage>
text-underline-position; i; auto; auto | [ [ from-font | under ] || [ left | right ] ]
text-emphasis-style; i; none; none | [ [ filled | open ] || [ dot | circle | double-circle | triangle | sesame ] ] | <string>
text-emphasis-color; i; currentcolor; <color>
text-emphasis-position; i; over; [ over | under ] && [ right | left ]?
text-overflow; ; clip; [ clip | ellipsis | <string> ]{1,2}
text-wrap-mode; i; wrap; wrap | nowrap
text-wrap-style; i; auto; auto | balance | stable | pretty
white-space-collapse; i; collapse; collapse | preserve | preserve-breaks | preserve-spaces | break-spaces | discard
text-justify; i; auto; auto | none | inter-word | inter-character
text-size-adjust; i; auto; auto | none | <percentage [0,∞]>
text-combine-upright; i; none; none | all
text-box-trim; ; none; none | trim-start | trim-end | trim-both
text-box-edge; i; auto; auto | [ text | cap | ex ] [ text | alphabetic ]?
text-autospace; i; no-autospace; normal | no-autospace | <ident>+
text-spacing-trim; i; normal; normal | space-all | space-first | trim-start
word-break; i; normal; normal | break-all | keep-all | break-word | auto-phrase
overflow-wrap; i; normal; normal | break-word | anywhere
line-break; i; auto; auto | loose | normal | strict | anywhere
hyphens; i; manual; none | manual | auto
hyphenate-character; i; auto; auto | <string>
hyphenate-limit-chars; i; auto; [ auto | <integer> ]{1,3}
tab-size; i; 8; <number [0,∞]> | <length [0,∞]>
quotes; i; auto; auto | none | [ <string> <string> ]+
orphans; i; 2; <integer [1,∞]>
widows; i; 2; <integer [1,∞]>
ruby-position; i; over; over | under
ruby-align; i; space-around; start | center | space-between | space-around
vertical-align; ; baseline; baseline | sub | super | top | text-top | middle | bottom | text-bottom | -webkit-baseline-middle | <length-percentage>
math-style; i; normal; normal | compact
math-shift; i; normal; normal | compact
math-depth; i; 0; auto-add | add( <integer> ) | <integer>

display; ; inline; none | contents | block | inline | inline-block | flow-root | list-item | table | inline-table | table-row-group | table-header-group | table-footer-group | table-row | table-cell | table-column-group | table-column | table-caption | flex | inline-flex | grid | inline-grid | ruby | ruby-text | ruby-base | math | -webkit-box | -webkit-inline-box | -webkit-flex | -webkit-inline-flex | [ [ block | inline ] || [ flow | flow-root | table | flex | grid | ruby | math ] ] | [ [ block | inline ]? && [ flow | flow-root ]? && list-item ]
visibility; i; visible; visible | hidden | collapse
content-visibility; ; visible; visible | auto | hidden
position; ; static; static | relative | absolute | sticky | fixed
float; ; none; none | left | right | inline-start | inline-end
clear; ; none; none | left | right | both | inline-start | inline-end
box-sizing; ; content-box; content-box | border-box
z-index; ; auto; auto | <integer>
isolation; ; auto; auto | isolate
overflow-x; ; visible; visible | hidden | clip | scroll | auto | overlay | -webkit-paged-x | -webkit-paged-y
overflow-y; ; visible; visible | hidden | clip | scroll | auto | overlay | -webkit-paged-x | -webkit-paged-y
overflow-clip-margin; ; 0px; <visual-box> || <length [0,∞]>
overflow-anchor; ; auto; auto | none | visible
clip; ; auto; auto | rect( [ [ <length> | auto ]#{4} ] | [ <length> | auto ]{4} )
clip-path; ; none; none | <url> | [ <basic-shape> || <coord-box> ] | margin-box
top; ; auto; auto | <length-percentage> | anchor( <any>* )
right; ; auto; auto | <length-percentage> | anchor( <any>* )
bottom; ; auto; auto | <length-percentage> | anchor( <any>* )
left; ; auto; auto | <length-percentage> | anchor( <any>* )
width; ; auto; <size>
height; ; auto; <size>
min-width; ; auto; <size>
min-height; ; auto; <size>
max-width; ; none; <max-size>
max-height; ; none; <max-size>
aspect-ratio; ; auto; auto || [ <number [0,∞]> [ / <number [0,∞]> ]? ]
margin-top; ; 0px; auto | <length-percentage>
margin-right; ; 0px; auto | <length-percentage>
margin-bottom; ; 0px; auto | <length-percentage>
margin-left; ; 0px; auto | <length-percentage>
padding-top; ; 0px; <length-percentage [0,∞]>
padding-right; ; 0px; <length-percentage [0,∞]>
padding-bottom; ; 0px; <length-percentage [0,∞]>
padding-left; ; 0px; <length-percentage [0,∞]>

border-top-width; ; medium; <line-width>
border-right-width; ; medium; <line-width>
border-bottom-width; ; medium; <line-width>
border-left-width; ; medium; <line-width>
border-top-style; ; none; <line-style>
border-right-style; ; none; <line-style>
border-bottom-style; ; none; <line-style>
border-left-style; ; none; <line-style>
border-top-color; ; currentcolor; <color>
border-right-color; ; currentcolor; <color>
border-bottom-color; ; currentcolor; <color>
border-left-color; ; currentcolor; <color>
border-top-left-radius; ; 0px; <radius>
border-top-right-radius; ; 0px; <radius>
border-bottom-right-radius; ; 0px; <radius>
border-bottom-left-radius; ; 0px; <radius>
border-image-source; ; none; none | <image>
border-image-slice; ; 100%; [ <number [0,∞]> | <percentage [0,∞]> ]{1,4} && fill?
border-image-width; ; 1; [ <length-percentage [0,∞]> | <number [0,∞]> | auto ]{1,4}
border-image-outset; ; 0; [ <number [0,∞]> | <length [0,∞]> ]{1,4}
border-image-repeat; ; stretch; [ stretch | repeat | round | space ]{1,2}
border-collapse; i; separate; collapse | separate
border-spacing; i; 0px; <length [0,∞]>{1,2}
outline-width; ; medium; <line-width>
outline-style; ; none; auto | none | dotted | dashed | solid | double | groove | ridge | inset | outset
outline-color; ; currentcolor; invert | <color>
outline-offset; ; 0px; <length>
box-shadow; ; none; none | <shadow>#
box-decoration-break; ; slice; slice | clone
background-color; ; transparent; <color>
background-image; ; none; [ none | <image> ]#
background-position-x; ; 0%; <position-x>#
background-position-y; ; 0%; <position-y>#
background-size; ; auto; <bg-size>#
background-repeat; ; repeat; <repeat-style>#
background-attachment; ; scroll; [ scroll | fixed | local ]#
background-origin; ; padding-box; <visual-box>#
background-clip; ; border-box; [ border-box | padding-box | content-box | border-area | text ]#
background-blend-mode; ; normal; <blend>#
mask-image; ; none; [ none | <image> ]#
mask-mode; ; match-source; [ alpha | luminance | match-source ]#
mask-position; ; 0% 0%; <bg-position>#
mask-size; ; auto; <bg-size>#
mask-repeat; ; repeat; <repeat-style>#
mask-origin; ; border-box; <coord-box>#
mask-clip; ; border-box; [ <coord-box> | no-clip | text ]#
mask-composite; ; add; [ add | subtract | intersect | exclude ]#
mask-type; ; luminance; luminance | alpha
mix-blend-mode; ; normal; <blend> | plus-lighter | plus-darker
filter; ; none; none | <filter-function>+
backdrop-filter; ; none; none | <filter-function>+

transform; ; none; none | <transform-function>+
transform-origin; ; 50% 50%; [ [ left | center | right | top | bottom | <length-percentage> ] | [ left | center | right | <length-percentage> ] [ top | center | bottom | <length-percentage> ] <length>? | [ [ center | left | right ] && [ center | top | bottom ] ] <length>? ]
transform-style; ; flat; flat | preserve-3d
transform-box; ; view-box; content-box | border-box | fill-box | stroke-box | view-box
translate; ; none; none | <length-percentage> [ <length-percentage> <length>? ]?
rotate; ; none; none | <angle> | [ x | y | z | <number>{3} ] && <angle>
scale; ; none; none | [ <number> | <percentage> ]{1,3}
perspective; ; none; none | <length [0,∞]>
perspective-origin; ; 50% 50%; <position>
backface-visibility; ; visible; visible | hidden
offset-path; ; none; none | <url> | [ <any-function> || <coord-box> ]
offset-distance; ; 0px; <length-percentage>
offset-position; ; normal; normal | auto | <position>
offset-anchor; ; auto; auto | <position>
offset-rotate; ; auto 0deg; [ auto | reverse ] || <angle>
will-change; ; auto; auto | [ scroll-position | contents | <custom-ident> ]#
contain; ; none; none | strict | content | [ [ size | inline-size ] || layout || style || paint ]
container-type; ; normal; normal | [ [ size | inline-size ] || scroll-state ]
container-name; ; none; none | <custom-ident>+
zoom; ; 1; normal | reset | <number [0,∞]> | <percentage [0,∞]>

transition-property; ; all; none | [ all | <custom-ident> ]#
transition-duration; ; 0s; <time [0,∞]>#
transition-timing-function; ; ease; <easing>#
transition-delay; ; 0s; <time>#
transition-behavior; ; normal; [ normal | allow-discrete ]#
animation-name; ; none; [ none | <string> | <custom-ident> ]#
animation-duration; ; 0s; [ auto | <time [0,∞]> ]#
animation-timing-function; ; ease; <easing>#
animation-delay; ; 0s; <time>#
animation-iteration-count; ; 1; [ infinite | <number [0,∞]> ]#
animation-direction; ; normal; [ normal | reverse | alternate | alternate-reverse ]#
animation-fill-mode; ; none; [ none | forwards | backwards | both ]#
animation-play-state; ; running; <play-state>#
animation-composition; ; replace; [ replace | add | accumulate ]#
animation-timeline; ; auto; [ auto | none | <dashed-ident> | scroll( <any>* ) | view( <any>* ) ]#
animation-range-start; ; normal; [ normal | <length-percentage> | <ident> <length-percentage>? ]#
animation-range-end; ; normal; [ normal | <length-percentage> | <ident> <length-percentage>? ]#

flex-direction; ; row; row | row-reverse | column | column-reverse
flex-wrap; ; nowrap; nowrap | wrap | wrap-reverse
flex-grow; ; 0; <number [0,∞]>
flex-shrink; ; 1; <number [0,∞]>
flex-basis; ; auto; content | <size>
order; ; 0; <integer>
align-content; ; normal; normal | <baseline> | <distribution> | <overflow-pos>? <content-position>
justify-content; ; normal; normal | <distribution> | <overflow-pos>? [ <content-position> | left | right ]
align-items; ; normal; normal | stretch | anchor-center | <baseline> | <overflow-pos>? <self-position>
justify-items; ; normal; normal | stretch | anchor-center | <baseline> | <overflow-pos>? [ <self-position> | left | right ] | legacy | legacy && [ left | right | center ]
align-self; ; auto; auto | normal | stretch | anchor-center | <baseline> | <overflow-pos>? <self-position>
justify-self; ; auto; auto | normal | stretch | anchor-center | <baseline> | <overflow-pos>? [ <self-position> | left | right ]
row-gap; ; normal; normal | <length-percentage [0,∞]>
column-gap; ; normal; normal | <length-percentage [0,∞]>
grid-template-columns; ; none; none | <track-list> | <subgrid>
grid-template-rows; ; none; none | <track-list> | <subgrid>
grid-template-areas; ; none; none | <string>+
grid-auto-columns; ; auto; <track-size>+
grid-auto-rows; ; auto; <track-size>+
grid-auto-flow; ; row; [ row | column ] || dense
grid-row-start; ; auto; <grid-line>
grid-row-end; ; auto; <grid-line>
grid-column-start; ; auto; <grid-line>
grid-column-end; ; auto; <grid-line>
column-count; ; auto; auto | <integer [1,∞]>
column-width; ; auto; auto | <length [0,∞]>
column-fill; ; balance; auto | balance
column-span; ; none; none | all
column-rule-width; ; medium; <line-width>
column-rule-style; ; none; <line-style>
column-rule-color; ; currentcolor; <color>
break-before; ; auto; auto | avoid | avoid-page | page | left | right | recto | verso | avoid-column | column
break-after; ; auto; auto | avoid | avoid-page | page | left | right | recto | verso | avoid-column | column
break-inside; ; auto; auto | avoid | avoid-page | avoid-column
table-layout; ; auto; auto | fixed
caption-side; i; top; top | bottom
empty-cells; i; show; show | hide
list-style-type; i; disc; none | <counter-style>
list-style-position; i; outside; inside | outside
list-style-image; i; none; none | <image>
content; ; normal; normal | none | <content-item>+ [ / <content-item>+ ]?
counter-increment; ; none; none | [ <custom-ident> <integer>? ]+
counter-reset; ; none; none | [ <custom-ident> <integer>? ]+
counter-set; ; none; none | [ <custom-ident> <integer>? ]+

object-fit; ; fill; fill | contain | cover | none | scale-down
object-position; ; 50% 50%; <position>
image-rendering; i; auto; auto | smooth | crisp-edges | pixelated | -webkit-optimize-contrast
image-orientation; i; from-image; from-image | none
shape-outside; ; none; none | <image> | [ <basic-shape> || <visual-box> ] | margin-box
shape-margin; ; 0px; <length-percentage [0,∞]>
shape-image-threshold; ; 0; <number> | <percentage>
cursor; i; auto; [ <url> [ <number> <number> ]? , ]* [ auto | default | none | context-menu | help | pointer | progress | wait | cell | crosshair | text | vertical-text | alias | copy | move | no-drop | not-allowed | e-resize | n-resize | ne-resize | nw-resize | s-resize | se-resize | sw-resize | w-resize | ew-resize | ns-resize | nesw-resize | nwse-resize | col-resize | row-resize | all-scroll | zoom-in | zoom-out | grab | grabbing | -webkit-grab | -webkit-grabbing | -webkit-zoom-in | -webkit-zoom-out | hand ]
pointer-events; i; auto; auto | none | visiblepainted | visiblefill | visiblestroke | visible | painted | fill | stroke | all | bounding-box
user-select; i; auto; auto | none | text | all | contain | element
touch-action; ; auto; auto | none | manipulation | [ [ pan-x | pan-left | pan-right ] || [ pan-y | pan-up | pan-down ] || pinch-zoom ]
resize; ; none; none | both | horizontal | vertical | block | inline
appearance; ; none; none | auto | base-select | button | checkbox | listbox | menulist | menulist-button | meter | progress-bar | radio | searchfield | textarea | textfield | push-button | square-button | slider-horizontal | inner-spin-button | searchfield-cancel-button | media-slider | default-button | slider-vertical
field-sizing; ; fixed; fixed | content
scroll-behavior; ; auto; auto | smooth
scroll-snap-type; ; none; none | [ x | y | block | inline | both ] [ mandatory | proximity ]?
scroll-snap-align; ; none; [ none | start | end | center ]{1,2}
scroll-snap-stop; ; normal; normal | always
scroll-margin-top; ; 0px; <length>
scroll-margin-right; ; 0px; <length>
scroll-margin-bottom; ; 0px; <length>
scroll-margin-left; ; 0px; <length>
scroll-padding-top; ; auto; auto | <length-percentage [0,∞]>
scroll-padding-right; ; auto; auto | <length-percentage [0,∞]>
scroll-padding-bottom; ; auto; auto | <length-percentage [0,∞]>
scroll-padding-left; ; auto; auto | <length-percentage [0,∞]>
scrollbar-color; i; auto; auto | <color>{2}
scrollbar-gutter; ; auto; auto | stable && both-edges?
scrollbar-width; ; auto; auto | thin | none
overscroll-behavior-x; ; auto; auto | contain | none
overscroll-behavior-y; ; auto; auto | contain | none
interpolate-size; i; numeric-only; numeric-only | allow-keywords
dynamic-range-limit; i; no-limit; no-limit | standard | constrained | dynamic-range-limit-mix( <any>* )
view-transition-name; ; none; none | auto | match-element | <custom-ident>
view-transition-class; ; none; none | <custom-ident>+
anchor-name; ; none; none | <dashed-ident>#
position-anchor; ; normal; normal | auto | none | <dashed-ident>
initial-letter; ; normal; normal | <number [1,∞]> [ <integer [1,∞]> | drop | raise ]?

fill; i; #000000; <svg-paint>
fill-opacity; i; 1; <number> | <percentage>
fill-rule; i; nonzero; nonzero | evenodd
stroke; i; none; <svg-paint>
stroke-opacity; i; 1; <number> | <percentage>
stroke-width; i; 1px; <svg-length>
stroke-linecap; i; butt; butt | round | square
stroke-linejoin; i; miter; miter | miter-clip | round | bevel | arcs
stroke-miterlimit; i; 4; <number [0,∞]>
stroke-dasharray; i; none; none | [ <svg-length>+ ]#
stroke-dashoffset; i; 0px; <svg-length>
clip-rule; i; nonzero; nonzero | evenodd
marker-start; i; none; none | <url>
marker-mid; i; none; none | <url>
marker-end; i; none; none | <url>
paint-order; i; normal; normal | [ fill || stroke || markers ]
shape-rendering; i; auto; auto | optimizespeed | crispedges | geometricprecision
color-interpolation; i; srgb; auto | srgb | linearrgb
color-interpolation-filters; i; linearrgb; auto | srgb | linearrgb
color-rendering; i; auto; auto | optimizespeed | optimizequality
text-anchor; i; start; start | middle | end
dominant-baseline; i; auto; auto | text-bottom | alphabetic | ideographic | middle | central | mathematical | hanging | text-top | use-script | no-change | reset-size | text-after-edge | text-before-edge
alignment-baseline; ; auto; auto | baseline | before-edge | text-before-edge | middle | central | after-edge | text-after-edge | ideographic | alphabetic | hanging | mathematical
baseline-shift; ; 0px; baseline | sub | super | <length-percentage>
flood-color; ; #000000; <color>
flood-opacity; ; 1; <number> | <percentage>
lighting-color; ; #ffffff; <color>
stop-color; ; #000000; <color>
stop-opacity; ; 1; <number> | <percentage>
vector-effect; ; none; none | non-scaling-stroke
x; ; 0px; <svg-length>
y; ; 0px; <svg-length>
cx; ; 0px; <svg-length>
cy; ; 0px; <svg-length>
r; ; 0px; <svg-length>
rx; ; auto; auto | <svg-length>
ry; ; auto; auto | <svg-length>
d; ; none; none | path( <string> )

-webkit-font-smoothing; i; auto; auto | none | antialiased | subpixel-antialiased
-webkit-line-clamp; ; none; none | <integer [1,∞]>
-webkit-box-orient; ; horizontal; horizontal | vertical | inline-axis | block-axis
-webkit-box-align; ; stretch; start | end | center | baseline | stretch
-webkit-box-pack; ; start; start | end | center | justify
-webkit-box-direction; ; normal; normal | reverse
-webkit-box-flex; ; 0; <number>
-webkit-box-ordinal-group; ; 1; <integer [1,∞]>
-webkit-tap-highlight-color; i; rgb(0 0 0 / 0.18); <color>
-webkit-text-fill-color; i; currentcolor; <color>
-webkit-text-stroke-color; i; currentcolor; <color>
-webkit-text-stroke-width; i; 0px; <line-width>
-webkit-user-drag; ; auto; auto | none | element
-webkit-user-modify; i; read-only; read-only | read-write | read-write-plaintext-only
-webkit-text-security; i; none; none | disc | circle | square
-webkit-locale; i; auto; auto | <string>
-webkit-rtl-ordering; i; logical; logical | visual
`

// aliases are names that properties also go by.
var aliases = map[string]string{"word-wrap": "overflow-wrap", "grid-row-gap": "row-gap", "grid-column-gap": "column-gap", "grid-gap": "gap",
	"-webkit-box-shadow": "box-shadow", "-webkit-border-radius": "border-radius",
	"-webkit-border-top-left-radius": "border-top-left-radius", "-webkit-border-top-right-radius": "border-top-right-radius",
	"-webkit-border-bottom-left-radius": "border-bottom-left-radius", "-webkit-border-bottom-right-radius": "border-bottom-right-radius",
	"-webkit-box-sizing": "box-sizing", "-webkit-transform": "transform", "-webkit-transform-origin": "transform-origin", "-webkit-transform-style": "transform-style",
	"-webkit-perspective": "perspective", "-webkit-perspective-origin": "perspective-origin", "-webkit-backface-visibility": "backface-visibility",
	"-webkit-transition": "transition", "-webkit-transition-property": "transition-property", "-webkit-transition-duration": "transition-duration",
	"-webkit-transition-timing-function": "transition-timing-function", "-webkit-transition-delay": "transition-delay",
	"-webkit-animation": "animation", "-webkit-animation-name": "animation-name", "-webkit-animation-duration": "animation-duration", "-webkit-animation-delay": "animation-delay",
	"-webkit-animation-timing-function": "animation-timing-function", "-webkit-animation-iteration-count": "animation-iteration-count", "-webkit-animation-direction": "animation-direction",
	"-webkit-animation-fill-mode": "animation-fill-mode", "-webkit-animation-play-state": "animation-play-state",
	"-webkit-flex": "flex", "-webkit-flex-direction": "flex-direction", "-webkit-flex-wrap": "flex-wrap", "-webkit-flex-flow": "flex-flow", "-webkit-flex-grow": "flex-grow",
	"-webkit-flex-shrink": "flex-shrink", "-webkit-flex-basis": "flex-basis", "-webkit-order": "order", "-webkit-align-items": "align-items", "-webkit-align-self": "align-self",
	"-webkit-align-content": "align-content", "-webkit-justify-content": "justify-content", "-webkit-filter": "filter", "-webkit-background-size": "background-size",
	"-webkit-background-clip": "background-clip", "-webkit-background-origin": "background-origin", "-webkit-appearance": "appearance", "-webkit-user-select": "user-select",
	"-webkit-clip-path": "clip-path", "-webkit-mask": "mask", "-webkit-mask-image": "mask-image", "-webkit-mask-size": "mask-size", "-webkit-mask-repeat": "mask-repeat",
	"-webkit-mask-position": "mask-position", "-webkit-mask-origin": "mask-origin", "-webkit-mask-clip": "mask-clip", "-webkit-text-size-adjust": "text-size-adjust",
	"-webkit-columns": "columns", "-webkit-column-count": "column-count", "-webkit-column-gap": "column-gap", "-webkit-column-width": "column-width", "-webkit-column-rule": "column-rule",
	"-webkit-column-rule-color": "column-rule-color", "-webkit-column-rule-style": "column-rule-style", "-webkit-column-rule-width": "column-rule-width", "-webkit-column-span": "column-span",
	"-webkit-hyphenate-character": "hyphenate-character", "-webkit-line-break": "line-break", "-webkit-opacity": "opacity", "-webkit-text-emphasis": "text-emphasis",
	"-webkit-text-emphasis-color": "text-emphasis-color", "-webkit-text-emphasis-style": "text-emphasis-style", "-webkit-text-emphasis-position": "text-emphasis-position",
	"-webkit-font-feature-settings": "font-feature-settings", "-webkit-print-color-adjust": "print-color-adjust",
	"-webkit-shape-outside": "shape-outside", "-webkit-shape-margin": "shape-margin", "-webkit-border-image": "border-image", "-webkit-writing-mode": "writing-mode",
	"-webkit-box-decoration-break": "box-decoration-break", "-webkit-app-region": "app-region",
	"-webkit-margin-start": "margin-inline-start", "-webkit-margin-end": "margin-inline-end", "-webkit-margin-before": "margin-block-start", "-webkit-margin-after": "margin-block-end",
	"-webkit-padding-start": "padding-inline-start", "-webkit-padding-end": "padding-inline-end", "-webkit-padding-before": "padding-block-start", "-webkit-padding-after": "padding-block-end",
	"-webkit-border-start": "border-inline-start", "-webkit-border-end": "border-inline-end", "page-break-before": "break-before", "page-break-after": "break-after", "page-break-inside": "break-inside",
	"-webkit-column-break-inside": "break-inside", "-webkit-column-break-before": "break-before", "-webkit-column-break-after": "break-after"}
