using EmberLane.Core.Comments;

namespace EmberLane.Web.Rooms;

/// <summary>Where words, a bite or a card are seen that somebody talks of or has in hand.</summary>
public static class TalkAddress
{
    /// <summary>The address, with the place on the page.</summary>
    public static string Of(long production, CommentPlace place)
    {
        var here = FormattableString.Invariant($"/productions/{production}");
        return place switch
        {
            WordsPlace words => FormattableString.Invariant($"{here}/read/{words.SittingId}#at-{words.Range.In.FromZero.ToSecondsText()}"),
            BitePlace bite => FormattableString.Invariant($"{here}/bites#bite-{bite.BiteId}"),
            CardPlace card => FormattableString.Invariant($"{here}/story#card-{card.Card}"),
            _ => here,
        };
    }
}
