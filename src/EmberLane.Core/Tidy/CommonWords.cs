using System.Collections.Frozen;

namespace EmberLane.Core.Tidy;

/// <summary>
/// English words that are said all the time and tell nothing of what is talked about; keys as in <see cref="TalkWord.Key"/>.
/// </summary>
internal static class CommonWords
{
    private static readonly FrozenSet<string> Words = string.Join(
            ' ',
            "a an the this that these those some any no every each all both such what which who whom whose where when why how",
            "i me my mine you your yours he him his she her hers it its we us our ours they them their theirs myself itself",
            "am is are was were be been being have has had having do does did doing done will would shall should can could may might must",
            "not don't doesn't didn't isn't wasn't weren't won't wouldn't can't couldn't it's that's there's i'm i've i'd "
                + "i'll you're you've",
            "we're we've we'd we'll they're they've he's she's let's what's",
            "and or but nor so yet if then than because as while though although until since unless",
            "of in on at by for with to from up down out off over under into onto about after before between through again there here",
            "very just too also only even still now well yes yeah no okay oh right really quite got get go went come came say said know",
            "think thought remember mean see saw feel felt want wanted need make made take took tell told like one two "
                + "thing things way much many more most other another own same back"
        )
        .Split(' ')
        .ToFrozenSet();

    public static bool Has(string key) => Words.Contains(key);
}
