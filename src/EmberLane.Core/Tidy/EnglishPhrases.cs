using System.Collections.Frozen;

namespace EmberLane.Core.Tidy;

/// <summary>
/// English phrases that are hesitations in some places and words with a meaning in others, told by what stands around them.
/// </summary>
internal static class EnglishPhrases
{
    private static readonly FrozenSet<string> BeforeKnow = Set(
            "do did don't didn't does doesn't if as to let would could should might may must will can could've what how "
                + "who whom where when why that which than "
                + "all before until because unless since whether make made wish hope think sure than everything anything things "
                + "something people"
        ),
        AfterKnow = Set(
            "what how who whom where when why whether if about him her them me us it my your his their our everything nothing better"
        ),
        BeforeMean = Set("what do did does don't didn't you they to that if which how by does she he would could not"),
        AfterMean = Set("it that this what to by business nothing everything well him her them no anything something"),
        BeforeOf = Set(
            "a an the this that what which some any all every same one each another different certain no kind sort right "
                + "wrong best worst new my your its these those"
        ),
        BeforeLike = Set(
            "i you we they would i'd you'd we'd they'd he'd she'd to don't didn't doesn't really might looks look looked "
                + "looking sounds sound sounded feels feel felt "
                + "feeling seems seemed smells smelled smell tastes taste tasted something anything nothing things stuff more "
                + "people someone somebody act acted acts "
                + "not much exactly behave work works worked treat treated talk talked speak dress dressed sing sang stand stood "
                + "sit live lived who what shaped"
        ),
        AfterLike = Set("that this it him her them me us you to"),
        Being = Set("is was were are am be been it's that's he's she's i'm we're they're you're"),
        Numbers = Set(
            "one two three four five six seven eight nine ten eleven twelve fifteen twenty thirty forty fifty sixty "
                + "seventy eighty ninety hundred thousand million half"
        ),
        Links = Set("and but so or because then just");

    /// <summary>Places of first and last words, with their kind.</summary>
    public static IEnumerable<Hesitation> Of(Talk talk, int[] places)
    {
        for (var i = 0; i < places.Length; i++)
        {
            var around = new Around(talk, places, i);
            if (around.Is("you", "know") && IsYouKnow(around))
            {
                yield return new Hesitation(HesitationKind.Phrase, places[i], places[i + 1]);
            }
            else if (around.Is("i", "mean") && IsIMean(around))
            {
                yield return new Hesitation(HesitationKind.Phrase, places[i], places[i + 1]);
            }
            else if ((around.Is("sort", "of") || around.Is("kind", "of")) && !BeforeOf.Contains(around.Before))
            {
                yield return new Hesitation(HesitationKind.Phrase, places[i], places[i + 1]);
            }
            else if (talk.Words[places[i]].Key == "like" && IsLike(around))
            {
                yield return new Hesitation(HesitationKind.Like, places[i], places[i]);
            }
        }
    }

    private static bool IsYouKnow(Around around) =>
        !BeforeKnow.Contains(around.Before) && !around.Asks(1) && (around.IsApart(1) || !AfterKnow.Contains(around.After(1)));

    private static bool IsIMean(Around around) =>
        !BeforeMean.Contains(around.Before) && (around.IsApart(1) || (!AfterMean.Contains(around.After(1)) && !around.EndsAt(1)));

    private static bool IsLike(Around around) => around.Stands(0) || IsLikeWithin(around);

    // Where nothing sets it apart on both sides, what stands around it tells.
    private static bool IsLikeWithin(Around around) =>
        Numbers.Contains(around.After(0)) ? !BeforeLike.Contains(around.Before) && !around.EndsAt(0)
        : around.IsApart(0) ? Being.Contains(around.Before) || Links.Contains(around.Before)
        : Being.Contains(around.Before)
            && !AfterLike.Contains(around.After(0))
            && (FilledPause.Is(around.After(0)) || around.After(0) is "i" or "we" or "really" or "so" or "totally");

    private static FrozenSet<string> Set(string words) => words.Split(' ').ToFrozenSet();

    /// <summary>What stands around a word of one voice.</summary>
    private readonly record struct Around(Talk Talk, int[] Places, int At)
    {
        private static readonly MediaTime Breath = MediaTime.FromMilliseconds(180);

        public bool Is(string one, string next) =>
            Key(At) == one && Key(At + 1) == next && !Talk.Words[Places[At]].EndsSentence && !Talk.Words[Places[At]].HasComma;

        /// <summary>The word before; empty where a sentence begins.</summary>
        public string Before => At == 0 || Talk.Words[Places[At - 1]].EndsSentence ? "" : Key(At - 1);

        /// <summary>The word behind so many further words; empty where a sentence ends.</summary>
        public string After(int more) => EndsAt(more) ? "" : Key(At + more + 1);

        public bool EndsAt(int more) => At + more + 1 >= Places.Length || Talk.Words[Places[At + more]].EndsSentence;

        public bool Asks(int more) => At + more < Places.Length && Talk.Words[Places[At + more]].Asks;

        /// <summary>A comma or a breath behind.</summary>
        public bool IsApart(int more) =>
            EndsAt(more) || Talk.Words[Places[At + more]].HasComma || Talk.Between(Places[At + more], Places[At + more + 1]) >= Breath;

        /// <summary>A comma or a breath before and behind.</summary>
        public bool Stands(int more) =>
            IsApart(more)
            && !EndsAt(more)
            && At > 0
            && (Talk.Words[Places[At - 1]].HasComma || Talk.Between(Places[At - 1], Places[At]) >= Breath);

        private string Key(int at) => at < Places.Length ? Talk.Words[Places[at]].Key : "";
    }
}
