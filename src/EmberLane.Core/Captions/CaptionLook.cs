using System.Globalization;

namespace EmberLane.Core.Captions;

/// <summary>What of a caption needs a look.</summary>
public static class CaptionLook
{
    /// <summary>Each thing in words; none where it keeps the rules and is of the words as they are.</summary>
    public static IReadOnlyList<string> Of(LaidCaption caption, CaptionRules rules, string language)
    {
        var of = caption.Caption;
        if (language.Length > 0 && caption.Name is null)
        {
            return [$"not in {language} yet"];
        }
        var lasts = MediaTime.Max(of.Out - of.In, new MediaTime(1));
        var looks = new List<string>();
        Add(caption.IsStale, $"what is said was changed to “{caption.Said}”");
        Add(of.Lines.Count > rules.Lines, Say($"{of.Lines.Count} lines"));
        Add(of.Lines.Any(l => l.Shown.Length > rules.Line), Say($"a line of {of.Lines.Max(l => l.Shown.Length)} characters"));
        Add(
            (Int128)of.Characters * MediaTime.UnitsPerSecond > (Int128)rules.Speed * lasts.Units,
            Say($"{(of.Characters * MediaTime.UnitsPerSecond + lasts.Units - 1) / lasts.Units} characters a second, {rules.Speed} at most")
        );
        Add(lasts < rules.Shortest, "too short to be seen");
        Add(lasts > rules.Longest, "longer than captions stand");
        return looks;

        void Add(bool isSo, string says)
        {
            if (isSo)
            {
                looks.Add(says);
            }
        }
    }

    private static string Say(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
