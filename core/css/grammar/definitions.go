package grammar

// Types are the types that grammars define, by name, as their specifications do.
var Types = map[string]string{
	// https://www.w3.org/TR/css-images-4/
	"image":             `<url> | <gradient> | <image-set> | cross-fade( <any>* ) | -webkit-cross-fade( <any>* ) | element( <any>* ) | paint( <any>* )`,
	"image-set":         `image-set( <image-option># ) | -webkit-image-set( <image-option># )`,
	"image-option":      `[ <image> | <string> ] [ <resolution> || type( <string> ) ]?`,
	"gradient":          `<linear-gradient> | <radial-gradient> | <conic-gradient> | <prefixed-gradient>`,
	"linear-gradient":   `linear-gradient( <linear-head> , <color-stop-list> ) | repeating-linear-gradient( <linear-head> , <color-stop-list> )`,
	"linear-head":       `[ [ <angle> | <zero> | to [ [ left | right ] || [ top | bottom ] ] ] || <interpolation> ]?`,
	"radial-gradient":   `radial-gradient( <radial-head> , <color-stop-list> ) | repeating-radial-gradient( <radial-head> , <color-stop-list> )`,
	"radial-head":       `[ [ [ [ circle | ellipse ] || [ <extent> | <length-percentage [0,∞]>{1,2} ] ]? [ at <position> ]? ] || <interpolation> ]?`,
	"extent":            `closest-corner | closest-side | farthest-corner | farthest-side`,
	"conic-gradient":    `conic-gradient( <conic-head> , <angular-stop-list> ) | repeating-conic-gradient( <conic-head> , <angular-stop-list> )`,
	"conic-head":        `[ [ [ from [ <angle> | <zero> ] ]? [ at <position> ]? ] || <interpolation> ]?`,
	"interpolation":     `in <ident> [ [ shorter | longer | increasing | decreasing ] hue ]?`,
	"color-stop-list":   `[ [ <color> && <length-percentage>{0,2} ] | <length-percentage> ]#`,
	"angular-stop-list": `[ [ <color> && [ <angle> | <percentage> | <zero> ]{0,2} ] | <angle> | <percentage> ]#`,
	"prefixed-gradient": `-webkit-linear-gradient( [ [ <angle> | <zero> | [ [ left | right ] || [ top | bottom ] ] ] , ]? <color-stop-list> ) | -webkit-repeating-linear-gradient( [ [ <angle> | <zero> | [ [ left | right ] || [ top | bottom ] ] ] , ]? <color-stop-list> ) | -webkit-radial-gradient( <any>* ) | -webkit-repeating-radial-gradient( <any>* ) | -webkit-gradient( <any>* )`,
	// https://www.w3.org/TR/css-values-4/#position
	"position":    `[ left | center | right | top | bottom | <length-percentage> ] | [ [ left | center | right ] && [ top | center | bottom ] ] | [ left | center | right | <length-percentage> ] [ top | center | bottom | <length-percentage> ] | [ [ left | right ] <length-percentage> ] && [ [ top | bottom ] <length-percentage> ]`,
	"bg-position": `<position> | [ center | [ left | right ] <length-percentage>? ] && [ center | [ top | bottom ] <length-percentage>? ]`,
	"position-x":  `center | [ [ left | right | x-start | x-end ]? <length-percentage>? ]`,
	"position-y":  `center | [ [ top | bottom | y-start | y-end ]? <length-percentage>? ]`,
	// https://www.w3.org/TR/css-backgrounds-3/
	"line-style":   `none | hidden | dotted | dashed | solid | double | groove | ridge | inset | outset`,
	"line-width":   `<length [0,∞]> | thin | medium | thick`,
	"repeat-style": `repeat-x | repeat-y | [ repeat | space | round | no-repeat ]{1,2}`,
	"bg-size":      `[ <length-percentage [0,∞]> | auto ]{1,2} | cover | contain`,
	"visual-box":   `border-box | padding-box | content-box`,
	"coord-box":    `border-box | padding-box | content-box | fill-box | stroke-box | view-box`,
	"shadow":       `<color>? && [ <length>{2} [ <length [0,∞]> <length>? ]? ] && inset?`,
	"text-shadow":  `<color>? && [ <length>{2} <length [0,∞]>? ]`,
	"radius":       `<length-percentage [0,∞]>{1,2}`,
	// https://www.w3.org/TR/css-sizing-4/
	"size":     `auto | <length-percentage [0,∞]> | min-content | max-content | fit-content | stretch | -webkit-fill-available | -webkit-fit-content | -webkit-min-content | -webkit-max-content | intrinsic | min-intrinsic | fit-content( <length-percentage [0,∞]> ) | calc-size( <any>* )`,
	"max-size": `none | <length-percentage [0,∞]> | min-content | max-content | fit-content | stretch | -webkit-fill-available | -webkit-fit-content | -webkit-min-content | -webkit-max-content | fit-content( <length-percentage [0,∞]> ) | calc-size( <any>* )`,
	// https://www.w3.org/TR/css-align-3/
	"content-position": `center | start | end | flex-start | flex-end`,
	"self-position":    `center | start | end | self-start | self-end | flex-start | flex-end`,
	"overflow-pos":     `unsafe | safe`,
	"distribution":     `space-between | space-around | space-evenly | stretch`,
	"baseline":         `[ first | last ]? && baseline`,
	// https://www.w3.org/TR/css-grid-2/
	"track-size":    `<track-breadth> | minmax( <track-breadth> , <track-breadth> ) | fit-content( <length-percentage [0,∞]> )`,
	"track-breadth": `<length-percentage [0,∞]> | <flex> | min-content | max-content | auto`,
	"track-list":    `[ <line-names>? [ <track-size> | <track-repeat> ] ]+ <line-names>?`,
	"track-repeat":  `repeat( [ <integer [1,∞]> | auto-fill | auto-fit ] , [ <line-names>? <track-size> ]+ <line-names>? )`,
	"line-names":    `<block>`,
	"subgrid":       `subgrid [ <line-names> | repeat( <any>* ) ]*`,
	"grid-line":     `auto | [ span && [ <integer> || <custom-ident> ] ] | [ <integer> && <custom-ident>? ] | <custom-ident>`,
	// https://www.w3.org/TR/css-easing-2/
	"easing": `linear | ease | ease-in | ease-out | ease-in-out | step-start | step-end | cubic-bezier( <number [0,1]> , <number> , <number [0,1]> , <number> ) | steps( <integer> [ , [ jump-start | jump-end | jump-none | jump-both | start | end ] ]? ) | linear( [ <number> && <percentage>{0,2} ]# )`,
	// https://www.w3.org/TR/css-transforms-2/
	"transform-function": `matrix( <number>#{6} ) | matrix3d( <number>#{16} ) | translate( <length-percentage> [ , <length-percentage> ]? ) | translatex( <length-percentage> ) | translatey( <length-percentage> ) | translatez( <length> ) | translate3d( <length-percentage> , <length-percentage> , <length> ) | scale( <factor> [ , <factor> ]? ) | scalex( <factor> ) | scaley( <factor> ) | scalez( <factor> ) | scale3d( <factor> , <factor> , <factor> ) | rotate( <turn> ) | rotatex( <turn> ) | rotatey( <turn> ) | rotatez( <turn> ) | rotate3d( <number> , <number> , <number> , <turn> ) | skew( <turn> [ , <turn> ]? ) | skewx( <turn> ) | skewy( <turn> ) | perspective( [ <length [0,∞]> | none ] )`,
	"turn":               `<angle> | <zero>`,
	"factor":             `<number> | <percentage>`,
	// https://www.w3.org/TR/filter-effects-1/
	"filter-function": `blur( <length [0,∞]>? ) | brightness( <part>? ) | contrast( <part>? ) | grayscale( <part>? ) | hue-rotate( <turn>? ) | invert( <part>? ) | opacity( <part>? ) | saturate( <part>? ) | sepia( <part>? ) | drop-shadow( [ <color>? && <length>{2,3} ] ) | <url>`,
	"part":            `<number [0,∞]> | <percentage [0,∞]>`,
	"basic-shape":     `inset( <any>* ) | circle( <any>* ) | ellipse( <any>* ) | polygon( <any>* ) | path( <any>* ) | rect( <any>* ) | xywh( <any>* ) | shape( <any>* )`,
	"family":          `<string> | <custom-ident>+`,
	"counter-style":   `<custom-ident> | <string> | symbols( <any>* )`,
	"content-item":    `<string> | <image> | counter( <any>* ) | counters( <any>* ) | attr( <any>* ) | open-quote | close-quote | no-open-quote | no-close-quote`,
	"blend":           `normal | multiply | screen | overlay | darken | lighten | color-dodge | color-burn | hard-light | soft-light | difference | exclusion | hue | saturation | color | luminosity`,
	"svg-paint":       `none | context-fill | context-stroke | [ <url> [ none | <color> ]? ] | <color>`,
	"svg-length":      `<length-percentage> | <number>`,
	"numeric-figure":  `lining-nums | oldstyle-nums`,
	"play-state":      `running | paused`,
}
