namespace Walkdown.Core.Acceptance;

/// <summary>One row of a Card: check x subject x part x condition.</summary>
public readonly record struct CheckKey(CheckId Check, Subject On, Condition Under)
{
    /// <summary>Rows of one Card differ by the end of the check, by the part and by the condition: those tell them apart.</summary>
    public override int GetHashCode()
    {
        var (check, part) = (Check.Value ?? "", On.Part ?? "");
        var hash = On.Id.GetHashCode() + 31 * (int)Under + 8191 * (int)On.Kind + 131_071 * check.Length;
        for (var i = Math.Max(0, check.Length - 7); i < check.Length; i++)
            hash = hash * 31 + check[i];
        foreach (var letter in part)
            hash = hash * 31 + letter;
        return hash;
    }

    /// <summary>One word for addresses and lists: <c>check~Run~id~part~condition</c>.</summary>
    public override string ToString() => $"{Check}~{On.Kind}~{On.Id:N}~{On.Part}~{(int)Under}";
}
