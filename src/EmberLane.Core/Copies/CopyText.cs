using System.Globalization;
using System.Text;
using EmberLane.Core.Captions;
using EmberLane.Core.Handoff;
using EmberLane.Core.Stories;

namespace EmberLane.Core.Copies;

/// <summary>
/// What is read in a viewing copy, as a file of Advanced SubStation Alpha, which ffmpeg draws by libass: captions, titles, what a space
/// waits for, words of a narration, the story's name.
/// </summary>
public static class CopyText
{
    private const string Fonts = "Atkinson Hyperlegible Next";

    private const string StyleFields =
        "Name, Fontname, Fontsize, PrimaryColour, SecondaryColour, OutlineColour, BackColour, Bold, Italic, Underline, StrikeOut, ScaleX, "
        + "ScaleY, Spacing, Angle, BorderStyle, Outline, Shadow, Alignment, MarginL, MarginR, MarginV, Encoding";

    // Of the height, in thousandths; of a picture that is higher than wide, of its width.
    private const int CaptionHeight = 60,
        TitleHeight = 80,
        NameHeight = 52;

    /// <summary>The file, for a span of the story that begins at its zero.</summary>
    public static string Write(HandedStory story, FrameSpan span, CopyWish wish)
    {
        var (width, height) = (wish.Size.Width, wish.Size.Height);
        var least = Math.Min(width, height);
        var margin = least / 16;
        var rate = story.Start.Count.Rate;
        var text = new StringBuilder();
        text.Append(
            CultureInfo.InvariantCulture,
            $"""
            [Script Info]
            ScriptType: v4.00+
            PlayResX: {width}
            PlayResY: {height}
            WrapStyle: 0
            ScaledBorderAndShadow: yes

            [V4+ Styles]
            Format: {StyleFields}

            """
        );
        Style("Caption", least * CaptionHeight * wish.CaptionSize / 100_000, wish.HasBox, wish.AreCaptionsAbove ? 8 : 2, 0);
        Style("Title", least * TitleHeight / 1000, false, 5, 0);
        Style("Waits", least * NameHeight / 1000, false, 5, 0);
        Style("Name", least * NameHeight / 1000, true, 7, 0);
        text.Append("\n[Events]\nFormat: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text\n");
        if (wish.IsLabelled)
        {
            Line(
                MediaTime.Zero,
                rate.TimeOf(span.Count),
                "Name",
                Plain(FormattableString.Invariant($"{story.Title} · version {story.Version}"))
            );
        }
        foreach (var piece in story.Pieces)
        {
            var (style, said) = Shown(piece.Piece);
            if (said.Length > 0 && new FrameSpan(piece.First, piece.Frames).Within(span) is { } within)
            {
                Line(rate.TimeOf(within.First - span.First), rate.TimeOf(within.End - span.First), style, Plain(said));
            }
        }
        if (wish.HasCaptions)
        {
            var from = rate.TimeOf(span.First);
            var (words, last) = (story.Words, rate.TimeOf(span.Count));
            foreach (var caption in story.Captions(wish.Rules))
            {
                foreach (var (at, until, said) in wish.IsWordMarked ? Marked(caption, words) : [(caption.In, caption.Out, Of(caption))])
                {
                    var (begins, ends) = (MediaTime.Max(MediaTime.Zero, at - from), MediaTime.Min(last, until - from));
                    if (begins < ends)
                    {
                        Line(begins, ends, "Caption", said);
                    }
                }
            }
        }
        if (wish.EndFrames(rate) is > 0 and var end)
        {
            Line(rate.TimeOf(span.Count), rate.TimeOf(span.Count + end), "Title", Plain(wish.EndCard));
        }
        return text.ToString();

        void Style(string name, int size, bool isBoxed, int place, int spacing) =>
            text.Append(
                CultureInfo.InvariantCulture,
                $"Style: {name},{Fonts},{size},&H00FFFFFF,&H00FFFFFF,{(isBoxed ? "&H60000000" : "&H00000000")},&H60000000,0,0,0,0,100,100,"
                    + $"{spacing},0,{(isBoxed ? 4 : 1)},{(isBoxed ? Math.Max(2, size / 8) : Math.Max(1, size / 16))},0,{place},{margin},"
                    + $"{margin},{margin},1\n"
            );

        void Line(MediaTime from, MediaTime to, string style, string said) =>
            text.Append(CultureInfo.InvariantCulture, $"Dialogue: 0,{Clock(from)},{Clock(to)},{style},,0,0,0,,{said}\n");
    }

    private static (string Style, string Said) Shown(Piece piece) =>
        piece switch
        {
            TitleCard title => ("Title", title.Words),
            Space { WaitsFor.Length: > 0 } space => ("Waits", "Space for " + space.WaitsFor),
            Narration narration => ("Waits", narration.Words),
            _ => ("", ""),
        };

    private static string Of(Caption caption) => string.Join("\\N", caption.Lines.Select(l => Plain(l.Shown)));

    // The caption once for each of its words, that word in another colour; between words the last one stays.
    private static IEnumerable<(MediaTime From, MediaTime To, string Said)> Marked(
        Caption caption,
        IReadOnlyList<Speech.RecognisedWord> words
    )
    {
        var shown = caption.Lines.SelectMany((line, l) => line.Shown.Split(' ').Select(t => (Line: l, Text: t))).ToList();
        var spoken = shown.Index().Where(s => s.Item.Text != CaptionMaker.Dash.Trim()).Select(s => s.Index).ToList();
        if (spoken.Count != caption.Words)
        {
            // A word with a space in it: which of its parts is said can not be told.
            yield return (caption.In, caption.Out, Of(caption));
            yield break;
        }
        for (var i = 0; i < spoken.Count; i++)
        {
            var from = i == 0 ? caption.In : MediaTime.Max(caption.In, words[caption.First + i].Range.In.FromZero);
            var to = i + 1 < spoken.Count ? words[caption.First + i + 1].Range.In.FromZero : caption.Out;
            yield return (
                from,
                MediaTime.Min(caption.Out, to),
                string.Join(
                    "\\N",
                    shown
                        .Index()
                        .GroupBy(s => s.Item.Line)
                        .Select(line =>
                            string.Join(
                                ' ',
                                line.Select(s => s.Index == spoken[i] ? $"{{\\c&H4CB4FF&}}{Plain(s.Item.Text)}{{\\c}}" : Plain(s.Item.Text))
                            )
                        )
                )
            );
        }
    }

    // Braces and backslashes are commands there; letters that look alike are not.
    private static string Plain(string text) => TypedText.OneLine(text).Replace('\\', '⧵').Replace('{', '❴').Replace('}', '❵');

    private static string Clock(MediaTime at)
    {
        var hundredths = Exact.RoundDivide((Int128)at.Units * 100, MediaTime.UnitsPerSecond);
        return FormattableString.Invariant(
            $"{hundredths / 360_000}:{hundredths / 6000 % 60:00}:{hundredths / 100 % 60:00}.{hundredths % 100:00}"
        );
    }
}
