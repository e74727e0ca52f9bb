using EmberLane.Core.People;

namespace EmberLane.Core.Tests.People;

public sealed class LinkScopeTests
{
    [Fact]
    public void A_link_to_all_shows_each_and_the_list_and_one_to_a_sitting_or_a_story_shows_that_alone()
    {
        LinkScope[] asked = [LinkScope.All, LinkScope.OfSitting(1), LinkScope.OfSitting(2), LinkScope.OfStory(1), LinkScope.OfStory(2)];
        Assert.All(asked, a => Assert.True(LinkScope.All.Holds(a)));
        foreach (var scope in asked.Skip(1))
        {
            Assert.Equal([scope], asked.Where(scope.Holds));
        }
        // An address that names both is neither's.
        Assert.False(LinkScope.OfStory(1).Holds(new LinkScope(1, 1)));
        Assert.False(LinkScope.OfSitting(1).Holds(new LinkScope(1, 1)));
    }
}
