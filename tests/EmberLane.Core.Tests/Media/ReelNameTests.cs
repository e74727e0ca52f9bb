using CsCheck;
using EmberLane.Core.Media;

namespace EmberLane.Core.Tests.Media;

public sealed class ReelNameTests
{
    [Theory]
    [InlineData("A001C002", "x.mov", "A001C002")]
    [InlineData(null, "SND0614_T01.WAV", "SND0614")]
    [InlineData("", "ferry 1.mov", "FERRY_1")]
    [InlineData(null, "日本.mov", "REEL")]
    public void The_reel_is_the_files_tag_or_its_name_in_the_letters_that_lists_allow(string? tag, string file, string reel) =>
        Assert.Equal(reel, ReelName.From(tag, file, ReelName.StrictLength));

    [Fact]
    public void No_two_sources_share_a_reel_and_every_reel_fits() =>
        Gen.Select(
                Gen.OneOfConst<string?>(null, "A001C002", "LONGREELNAME"),
                Gen.OneOfConst("a.mov", "b.mov", "漢.mov", "verylongname1.wav", "verylongname2.wav")
            )
            .Array[0, 40]
            .Sample(sources =>
            {
                var reels = ReelName.Distinct(sources.Select(s => ((string?)s.Item1, s.Item2)), ReelName.StrictLength);
                Assert.Equal(reels.Count, reels.Distinct().Count());
                Assert.All(reels, r => Assert.Matches("^[A-Z0-9_]{1,8}$", r));
            });
}
